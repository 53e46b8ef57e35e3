/** A package of a shot as one archive, with checksums as Debian's `sha256sum -c` reads them. */
import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import yazl from 'yazl';
import type { ShotPackage } from '../core/intake/files/package.ts';

export const SUMS = 'SHA256SUMS';
/** The same package is the same bytes, whenever it is made. */
const MTIME = new Date(2000, 0, 1);

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

export function zipOf({ files }: ShotPackage): Readable {
  const zip = new yazl.ZipFile();
  const sums: string[] = [];
  for (const [path, bytes] of files) {
    sums.push(`${sha256(bytes)}  ${path}\n`);
    // Pictures hardly shrink; geometry and text do.
    zip.addBuffer(Buffer.from(bytes), path, { compress: !/\.(png|jpe?g)$/i.test(path), mtime: MTIME });
  }
  zip.addBuffer(Buffer.from(sums.join('')), SUMS, { mtime: MTIME });
  zip.end();
  return zip.outputStream as Readable;
}
