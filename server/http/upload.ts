/**
 * A shot on its way in over HTTP: a folder's files, or one archive, streamed to a folder of its own that
 * is gone when the request is. Nothing is kept of an upload that is refused.
 */
import busboy from 'busboy';
import type { Request } from 'express';
import { createWriteStream } from 'node:fs';
import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { promisify } from 'node:util';
import yauzl from 'yauzl';
import { FILE_PATTERN } from '../../core/document/schema.ts';
import { RequestError } from '../errors.ts';
import { filesInFolder, type ShotFiles } from '../shots/shot-files.ts';

const MOST_FILES = 20_000;
/** Milliseconds that a refused upload may go on arriving before its connection is closed all the same. */
const LONGEST_READ_OUT = 15_000;
const SAFE_PATH = new RegExp(FILE_PATTERN);

/** Bytes that an upload may still bring, over all its files, packed or not. */
class Allowance {
  private left: number;
  constructor(private readonly limit: number) {
    this.left = limit;
  }

  take(bytes: number): void {
    this.left -= bytes;
    if (this.left < 0) throw this.tooLarge();
  }

  tooLarge(): RequestError {
    return new RequestError(
      413,
      `The upload is larger than ${tellBytes(this.limit)}, the most this server takes. Nothing was kept.`,
    );
  }

  meter(): Transform {
    return new Transform({
      transform: (chunk: Buffer, _encoding, done) => {
        try {
          this.take(chunk.length);
          done(null, chunk);
        } catch (error) {
          done(error as Error);
        }
      },
    });
  }
}

/**
 * @param folder where uploads may stand while they come in
 * @param limit most bytes, before and after unpacking
 * @param use what to do with the files; they are gone afterwards
 */
export async function receiveUpload<T>(
  request: Request,
  folder: string,
  limit: number,
  use: (files: ShotFiles) => Promise<T>,
): Promise<T> {
  const allowance = new Allowance(limit);
  // However it ends, a connection that carried an upload may have unread bytes: it is not used again.
  request.res!.setHeader('Connection', 'close');
  // Refused by what it says of itself, before a byte of it is read.
  if (Number(request.headers['content-length'] ?? 0) > limit + 1024 ** 2) throw allowance.tooLarge();
  await mkdir(folder, { recursive: true });
  const own = await mkdtemp(join(folder, 'upload-'));
  try {
    const archives = await receiveFiles(request, own, allowance);
    for (const archive of archives) {
      await unpack(archive, own, allowance);
      await rm(archive);
    }
    return await use(await filesInFolder(own));
  } finally {
    await rm(own, { recursive: true, force: true });
  }
}

/** @returns paths of the archives among what came */
async function receiveFiles(request: Request, own: string, allowance: Allowance): Promise<string[]> {
  let form: busboy.Busboy;
  try {
    form = busboy({ headers: request.headers, preservePath: true, limits: { files: MOST_FILES } });
  } catch (error) {
    throw new RequestError(
      400,
      `A shot comes in as a form with files (multipart/form-data): ${(error as Error).message}.`,
    );
  }
  const archives: string[] = [];
  const refused = new AbortController();
  const writes: Promise<void>[] = [];
  const received = new Promise<void>((resolve, reject) => {
    const refuse = (error: Error) => {
      reject(error);
      request.unpipe(form);
      refused.abort();
    };
    form.on('file', (_field, stream: Readable, { filename = '' }: { filename?: string }) => {
      // A form that breaks off ends its files with an error of their own; the request tells it.
      stream.on('error', () => {});
      // The form may hold more files of a chunk it was given before it was refused; nobody waits for them.
      if (refused.signal.aborted) {
        stream.resume();
        return;
      }
      const written = writeInto(own, filename, stream, allowance, refused.signal).then((path) => {
        if (/\.zip$/i.test(path)) archives.push(path);
      });
      written.catch(refuse);
      writes.push(written);
    });
    form.on('filesLimit', () => refuse(new RequestError(413, `The upload has more than ${MOST_FILES} files.`)));
    const brokeOff = () => refuse(new RequestError(400, 'The upload broke off. Nothing was kept.'));
    form.on('error', brokeOff);
    form.on('close', resolve);
    request.on('error', brokeOff);
    request.on('close', () => !request.complete && brokeOff());
    request.pipe(form);
  });
  try {
    await received;
    await Promise.all(writes);
  } catch (error) {
    await readOut(request);
    throw error;
  } finally {
    // Nothing may be writing any more when the folder is removed.
    await Promise.allSettled(writes);
  }
  return archives;
}

/**
 * Reads and forgets what a sender still has to say. A connection that is closed while its sender writes is
 * reset, and takes the answer with it: the page would tell of a broken network, not of what was wrong.
 */
async function readOut(request: Request): Promise<void> {
  if (request.complete || request.destroyed) return;
  await new Promise<void>((resolve) => {
    const enough = setTimeout(resolve, LONGEST_READ_OUT);
    const over = () => {
      clearTimeout(enough);
      resolve();
    };
    request.once('end', over).once('close', over).once('error', over);
    request.resume();
  });
}

async function writeInto(
  own: string,
  path: string,
  from: Readable,
  allowance: Allowance,
  signal?: AbortSignal,
): Promise<string> {
  if (!path || !SAFE_PATH.test(path))
    throw new RequestError(400, `A file of the upload is called "${path.slice(0, 80)}", which leaves its folder.`);
  const place = join(own, path);
  await mkdir(dirname(place), { recursive: true });
  await pipeline(from, allowance.meter(), createWriteStream(place), { signal });
  return place;
}

/** yauzl refuses names that leave the folder by itself; sizes are counted as bytes come out, not believed. */
async function unpack(archive: string, own: string, allowance: Allowance): Promise<void> {
  try {
    const zip = await promisify<string, yauzl.Options, yauzl.ZipFile>(yauzl.open)(archive, {
      lazyEntries: true,
    });
    const openEntry = promisify(zip.openReadStream.bind(zip)) as (entry: yauzl.Entry) => Promise<Readable>;
    let count = 0;
    await new Promise<void>((resolve, reject) => {
      zip.on('error', reject);
      zip.on('end', resolve);
      zip.on('entry', (entry: yauzl.Entry) => {
        const next = async () => {
          if (++count > MOST_FILES) throw new RequestError(413, `The archive has more than ${MOST_FILES} files.`);
          if (!entry.fileName.endsWith('/')) await writeInto(own, entry.fileName, await openEntry(entry), allowance);
          zip.readEntry();
        };
        next().catch((error: Error) => {
          zip.close();
          reject(error);
        });
      });
      zip.readEntry();
    });
  } catch (error) {
    if (error instanceof RequestError) throw error;
    const why = (error as Error).message.replace(/\.$/, '');
    throw new RequestError(400, `The archive ${basename(archive)} could not be unpacked: ${why}. Nothing was kept.`);
  }
}

function tellBytes(bytes: number): string {
  return bytes >= 1024 ** 3 ? `${+(bytes / 1024 ** 3).toFixed(1)} GB` : `${+(bytes / 1024 ** 2).toFixed(1)} MB`;
}
