/**
 * Brings the demo shots in through the same door as a user's, those that are not there yet, and leaves
 * each as a shot folder below the data folder for whoever wants to look into one. `DUSTING_DEMO` names those that
 * are wanted (`HA-010,HA-050`), or none by `none`.
 */
import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { constants, setPriority } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { canonicalText } from '../core/document/canonical.ts';
import type { ErrorBody, ShotSummary } from '../core/contracts/events.ts';
import { addressOf } from '../scripts/lib/address.mjs';
import { demoShots } from './shots.ts';

const host = process.env.DUSTING_HOST || '127.0.0.1';
const address = `http://${addressOf(host)}:${process.env.DUSTING_PORT || 4600}/api/shots`;
const { DUSTING_TOKEN, DUSTING_TOKEN_FILE } = process.env;
const token = DUSTING_TOKEN || (DUSTING_TOKEN_FILE && (await readFile(DUSTING_TOKEN_FILE, 'utf8')).trim());
const headers: Record<string, string> = token ? { Authorization: `Bearer ${token}` } : {};
const folder = resolve(process.env.DUSTING_DATA || '.dusting', 'demo');

const present = new Set(((await (await fetch(address, { headers })).json()) as ShotSummary[]).map((shot) => shot.code));
const wanted = process.env.DUSTING_DEMO?.split(',').map((code) => code.trim());
for (const [code, build] of Object.entries(demoShots)) {
  if (present.has(code) || (wanted && !wanted.includes(code))) continue;
  const { document, files } = await build();
  const all = new Map([['shot.json', new TextEncoder().encode(canonicalText(document))], ...files]);
  const form = new FormData();
  for (const [path, bytes] of all) {
    const place = join(folder, code, path);
    await mkdir(dirname(place), { recursive: true });
    await writeFile(place, bytes);
    form.append('files', new Blob([bytes as Uint8Array<ArrayBuffer>]), `${code}/${path}`);
  }
  const response = await fetch(address, { method: 'POST', body: form, headers });
  if (!response.ok) throw new Error(`demo shot ${code}: ${((await response.json()) as ErrorBody).error}`);
  console.log(`Demo shot ${code}, ${document.name}, came in; its folder is ${join(folder, code)}.`);
  await bringPictures(code);
  // The first is looked at by now: building the others must not hold up its render.
  setPriority(constants.priority.PRIORITY_LOW);
}

/** Frames that ship beside a shot, as if they came from elsewhere. */
async function bringPictures(code: string): Promise<void> {
  // Built, this file is in dist/server; from source, in demo.
  const demo = new URL(import.meta.url.endsWith('.ts') ? './' : '../../demo/', import.meta.url);
  const frames = fileURLToPath(new URL(`${code.toLowerCase()}/frames`, demo));
  const names = await readdir(frames).catch(() => []);
  for (const name of names.sort()) {
    const body = await readFile(join(frames, name));
    const response = await fetch(`${address}/${code}/pictures?name=${encodeURIComponent(name)}`, { method: 'POST', body, headers: { ...headers, 'Content-Type': 'application/octet-stream' } }); // prettier-ignore
    if (!response.ok) throw new Error(`demo picture ${name}: ${((await response.json()) as ErrorBody).error}`);
  }
  if (names.length) console.log(`${names.length} pictures came in beside ${code}.`);
}
