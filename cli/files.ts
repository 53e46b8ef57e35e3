/** `dusting files`: what a scene needs, what will not travel, and a package of it. */
import { createWriteStream, existsSync } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { ShotDocument } from '../core/document/schema.ts';
import { listFiles, stateOfFiles, type FileList } from '../core/intake/files/list.ts';
import { packShot, type ShotPackage } from '../core/intake/files/package.ts';
import { bytes } from '../core/intake/preflight/tell.ts';
import { sha256, zipOf } from '../host/package-zip.ts';
import { BadUse } from './bad-use.ts';
import { dryRun, type DryRun } from '../host/dry-run.ts';
import { filesInFolder } from './folder-files.ts';
import { openForIntake } from './open-scene.ts';
import { parseOptions } from './options.ts';
import { EXIT_CODES } from './preflight.ts';

export const FILES_USAGE = `dusting files <shot folder | scene> [--package out.zip [--dry-run]] [--json]`;

const OPTIONS = {
  package: { type: 'string' },
  'dry-run': { type: 'boolean', default: false },
  json: { type: 'boolean', default: false },
} as const;

export async function filesCommand(args: string[]): Promise<number> {
  const { values, positionals } = parseOptions(args, OPTIONS, FILES_USAGE);
  if (positionals.length !== 1) throw new BadUse(`Name one shot folder or scene.\n${FILES_USAGE}`);
  if (values['dry-run'] && !values.package) throw new BadUse('--dry-run opens a package: name it with --package.');
  const { source, document } = await openForIntake(positionals[0]);
  const list = listFiles(source, document);
  let packed: ShotPackage | null = null;
  let tried: DryRun | null = null;
  if (values.package !== undefined) {
    if (!document)
      throw new BadUse(
        'Packages are made of shots: import the scene with "dusting import" first, which also copies in what lies outside.',
      );
    packed = await writePackage(positionals[0], document, values.package);
    if (values['dry-run']) {
      const from = filesInFolder(positionals[0]);
      tried = await dryRun(values.package, document, (path) => from.read(path));
    }
  }
  const report = {
    files: list.files,
    totalBytes: list.totalBytes,
    ...(packed
      ? { package: { path: values.package, before: packed.before, after: packed.after, same: packed.same } }
      : {}),
    ...(tried ? { dryRun: tried } : {}),
  };
  console.log(values.json ? JSON.stringify(report) : tell(list, packed, tried));
  if (tried && !tried.holds) return EXIT_CODES.stop;
  return EXIT_CODES[stateOfFiles(list)];
}

/** Under another name first, so that a package is there whole or not at all. */
async function writePackage(folder: string, document: ShotDocument, out: string): Promise<ShotPackage> {
  if (!existsSync(dirname(out) || '.')) throw new BadUse(`There is no folder "${dirname(out)}" to write into.`);
  const from = filesInFolder(folder);
  const packed = await packShot(document, (path) => from.read(path), sha256);
  const half = join(dirname(out), `.${process.pid}.part`);
  try {
    await pipeline(zipOf(packed), createWriteStream(half));
    await rename(half, out);
  } catch (error) {
    await rm(half, { force: true });
    throw error;
  }
  return packed;
}

function tell({ files, totalBytes }: FileList, packed: ShotPackage | null, tried: DryRun | null): string {
  const lines = files.map(
    ({ path, state, bytes: size, neededBy, used }) =>
      `${state.padEnd(11)}${bytes(size).padStart(9)}  ${path}${used || state === 'missing' ? '' : ' (unused)'}${neededBy.length ? `  needed by ${neededBy[0]}${neededBy.length > 1 ? ` and ${neededBy.length - 1} more` : ''}` : ''}`,
  );
  lines.push(`${files.length} files, ${bytes(totalBytes)}`);
  if (packed)
    lines.push(
      `Package: ${bytes(packed.before)} before, ${bytes(packed.after)} after, ${packed.same.length} files were there twice`,
    );
  if (tried)
    lines.push(
      tried.holds
        ? `Dry run: opened and rendered alone, the same picture bit for bit (${tried.pixels} pixels)`
        : `Dry run failed: ${tried.why}`,
    );
  return lines.join('\n');
}
