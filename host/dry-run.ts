/** A package opened where nothing else is, rendered there, and held against the original. */
import { promisify } from 'node:util';
import type { Readable } from 'node:stream';
import yauzl from 'yauzl';
import type { ShotDocument } from '../core/document/schema.ts';
import { parseDocument } from '../core/document/validate.ts';
import { DOCUMENT } from '../core/intake/from-shot.ts';
import { compileScene } from '../core/render/compile/compile.ts';
import { createFilm, packFilm } from '../core/render/film/film.ts';
import { renderGroups } from '../core/render/frame/render-tile.ts';
import { settingsOf } from '../core/render/scene/scene.ts';
import { loadAssets, type ReadFile } from '../core/render/compile/load-assets.ts';
import { lentByHost, packScene, withKernel } from './kernel.ts';
import { sha256, SUMS } from './package-zip.ts';

export interface DryRun {
  holds: boolean;
  /** Why it does not hold. */
  why: string | null;
  /** Pixels that were compared. */
  pixels: number;
}

/** Small, but the whole frame: what is missing is missing somewhere in it. */
const WIDTH = 96;

/**
 * @param archive place of the package
 * @param read a file of the shot that it was made of
 */
export async function dryRun(archive: string, original: ShotDocument, read: ReadFile): Promise<DryRun> {
  const fail = (why: string): DryRun => ({ holds: false, why, pixels: 0 });
  const files = await unpack(archive);
  for (const line of new TextDecoder().decode(files.get(SUMS)).split('\n').filter(Boolean)) {
    const [sum, path] = [line.slice(0, 64), line.slice(66)];
    const found = files.get(path);
    if (!found) return fail(`${path} is not in the package`);
    if (sha256(found) !== sum) return fail(`${path} has another checksum`);
  }
  const inside = async (path: string) => files.get(path) ?? null;
  try {
    const document = parseDocument(new TextDecoder().decode(files.get(DOCUMENT)), `the package’s ${DOCUMENT}`);
    const alone = await render(document, inside);
    const before = await render(original, read);
    if (Buffer.compare(alone.bytes, before.bytes) !== 0) return fail('its picture differs from that of the shot');
    return { holds: true, why: null, pixels: alone.pixels };
  } catch (error) {
    return fail((error as Error).message);
  }
}

async function render(document: ShotDocument, read: ReadFile) {
  const assets = await loadAssets(document, read, 'the package');
  const { width, height } = document.sheets.final;
  const sheet = {
    ...document.sheets.final,
    width: WIDTH,
    height: Math.max(1, Math.round((WIDTH * height) / width)),
    samples: 4,
    adaptive: { ...document.sheets.final.adaptive, on: false },
  };
  const scene = compileScene(document, assets, sheet, lentByHost);
  const ready = withKernel(scene, packScene(scene));
  const film = createFilm({ x: 0, y: 0, width: sheet.width, height: sheet.height }, scene.layout);
  renderGroups(ready, settingsOf(sheet), film, 1, () => 0);
  return { bytes: packFilm(film), pixels: sheet.width * sheet.height };
}

async function unpack(archive: string): Promise<Map<string, Uint8Array>> {
  const zip = await promisify<string, yauzl.Options, yauzl.ZipFile>(yauzl.open)(archive, { lazyEntries: true });
  const openEntry = promisify(zip.openReadStream.bind(zip)) as (entry: yauzl.Entry) => Promise<Readable>;
  const files = new Map<string, Uint8Array>();
  await new Promise<void>((resolve, reject) => {
    zip.on('error', reject);
    zip.on('end', resolve);
    zip.on('entry', (entry: yauzl.Entry) => {
      const next = async () => {
        const pieces: Buffer[] = [];
        for await (const piece of await openEntry(entry)) pieces.push(piece as Buffer);
        files.set(entry.fileName, new Uint8Array(Buffer.concat(pieces)));
        zip.readEntry();
      };
      next().catch(reject);
    });
    zip.readEntry();
  });
  return files;
}
