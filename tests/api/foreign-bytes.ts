/** Files that are small and cost much to read. */
import { deflateSync } from 'node:zlib';
import yazl from 'yazl';

/** A PNG of one colour, RGB of 8 bits. Source: PNG third edition, 5. */
export function flatPng(side: number): Buffer {
  const header = Buffer.alloc(13);
  header.writeUInt32BE(side, 0);
  header.writeUInt32BE(side, 4);
  header.set([8, 2, 0, 0, 0], 8);
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk('IHDR', header),
    chunk('IDAT', deflateSync(Buffer.alloc(side * (side * 3 + 1)))),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

function chunk(name: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(name), data]);
  const out = Buffer.alloc(body.length + 8);
  out.writeUInt32BE(data.length, 0);
  body.copy(out, 4);
  out.writeUInt32BE(crc(body), body.length + 4);
  return out;
}

/** The CRC of PNG's annex D. */
function crc(bytes: Buffer): number {
  let c = 0xffffffff;
  for (const byte of bytes) {
    c ^= byte;
    for (let k = 0; k < 8; k++) c = c & 1 ? (c >>> 1) ^ 0xedb88320 : c >>> 1;
  }
  return (c ^ 0xffffffff) >>> 0;
}

export function zip(files: Iterable<readonly [string, Uint8Array | string]>): Promise<Buffer> {
  const archive = new yazl.ZipFile();
  for (const [path, bytes] of files) archive.addBuffer(Buffer.from(bytes), path);
  archive.end();
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = [];
    archive.outputStream.on('data', (piece: Buffer) => chunks.push(piece));
    archive.outputStream.on('end', () => resolve(Buffer.concat(chunks)));
    archive.outputStream.on('error', reject);
  });
}
