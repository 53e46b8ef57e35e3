/** A shot's present version as a package to download; the shot stays as it is. */
import { join } from 'node:path';
import type { DryRunTold } from '../../core/contracts/intake.ts';
import { apart, type ApartOptions } from '../apart/apart.ts';
import { config } from '../config.ts';
import type { Context } from '../context.ts';
import { headOf } from '../versions/versions.ts';

/** @returns where the package stands: made once for each version, so that parts of it can be asked for again */
export async function shotPackage(context: Context, code: string): Promise<string> {
  const { id, document, manifest } = await headOf(context.db, code);
  return context.made.place({ of: `package-${id}`, state: '0' }, (place) =>
    apart('packTask', { document, manifest, code, blobs: context.blobs.folder, place }),
  );
}

/** Packs the shot, opens the package where nothing else is, and holds its picture against the shot's. */
export async function dryRunShot(context: Context, code: string, options: ApartOptions): Promise<DryRunTold> {
  const { document, manifest } = await headOf(context.db, code);
  const folder = join(config.data, 'uploads');
  return apart('dryRunPackage', { document, manifest, blobs: context.blobs.folder, folder }, options);
}
