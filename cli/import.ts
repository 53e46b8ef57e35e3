/** `dusting import`: a scene of an open format becomes a shot folder. */
import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, readdir, rename, rm, writeFile } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import { canonicalText } from '../core/document/canonical.ts';
import type { Remark } from '../core/formats/source-scene.ts';
import { takeOver } from '../core/intake/fit/take-over.ts';
import { toShot, type MadeShot } from '../core/intake/to-shot.ts';
import type { TakenOver } from '../core/contracts/intake.ts';
import { placeIn } from '../host/place-in.ts';
import { BadUse } from './bad-use.ts';
import { openScene } from './open-scene.ts';
import { parseOptions } from './options.ts';

export const IMPORT_USAGE = `dusting import <scene: .gltf .glb .obj .usda, or its folder> --out <shot folder> [--json]`;

const OPTIONS = { out: { type: 'string' }, json: { type: 'boolean', default: false } } as const;

export async function importCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseOptions(args, OPTIONS, IMPORT_USAGE);
  if (positionals.length !== 1) throw new BadUse(`Name one scene.\n${IMPORT_USAGE}`);
  if (!values.out) throw new BadUse('Say with --out which folder the shot goes into.');
  const out = resolve(values.out);
  if (existsSync(out) && (await readdir(out)).length)
    throw new BadUse(`"${values.out}" is there already and not empty.`);
  const scene = await openScene(positionals[0]);
  const made = await toShot(scene);
  await writeShot(out, made);
  const report = {
    ...made.counts,
    notUnderstood: made.notUnderstood,
    repaired: scene.repaired,
    takenOver: takeOver(scene, made),
  };
  console.log(values.json ? JSON.stringify(report) : tell(report, values.out));
}

/** Beside its place first, so that a shot is there whole or not at all. */
async function writeShot(out: string, { document, files }: MadeShot): Promise<void> {
  await mkdir(dirname(out), { recursive: true });
  const folder = await mkdtemp(join(dirname(out), '.import-'));
  try {
    for (const [path, bytes] of files) {
      const place = placeIn(folder, path);
      await mkdir(dirname(place), { recursive: true });
      await writeFile(place, bytes);
    }
    await writeFile(join(folder, 'shot.json'), canonicalText(document));
    await rm(out, { recursive: true, force: true });
    await rename(folder, out);
  } catch (error) {
    await rm(folder, { recursive: true, force: true });
    throw error;
  }
}

function tell(
  report: MadeShot['counts'] & { notUnderstood: Remark[]; repaired: Remark[]; takenOver: TakenOver[] },
  out: string,
): string {
  const count = (n: number, what: string) => `${n.toLocaleString('en')} ${what}`;
  const lines = (title: string, remarks: Remark[]) =>
    remarks.length ? [title, ...remarks.map(({ where, what }) => `  ${where}: ${what}`)] : [];
  return [
    `${out}: ${[
      count(report.objects, 'objects'),
      count(report.meshes, 'meshes'),
      count(report.triangles, 'triangles'),
      count(report.polygons, 'polygons'),
      count(report.materials, 'materials'),
      count(report.textures, 'textures'),
      count(report.lights, 'lights'),
      count(report.cameras, 'cameras'),
    ].join(', ')}`,
    'Taken over:',
    ...report.takenOver.map(({ aspect, fate, detail }) => `  ${fate.padEnd(8)} ${aspect}: ${detail}`),
    ...lines('Not understood:', report.notUnderstood),
    ...lines('Put right:', report.repaired),
  ].join('\n');
}
