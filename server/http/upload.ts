/**
 * A shot on its way in over HTTP: a folder's files, or one archive, streamed to a folder of its own that
 * is gone when the request is. Nothing is kept of an upload that is refused.
 */
import busboy from 'busboy';
import type { Request, Response } from 'express';
import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { promisify } from 'node:util';
import yauzl from 'yauzl';
import { placeIn } from '../../host/place-in.ts';
import { config } from '../config.ts';
import { RequestError } from '../errors.ts';
import type { Upload } from '../received.ts';
import { Allowance } from './allowance.ts';
import { goneSignal } from './gone.ts';
import { readOut } from './read-out.ts';
import { withFolder } from '../storage/upload-folders.ts';

const MOST_FILES = 20_000;

/** @param use what to do with the files; they are gone afterwards */
export async function receiveUpload<T>(
  request: Request,
  response: Response,
  use: (upload: Upload) => Promise<T>,
): Promise<T> {
  const allowance = new Allowance(config.uploadLimit);
  const gone = goneSignal(response);
  // However it ends, a connection that carried an upload may have unread bytes: it is not used again.
  response.setHeader('Connection', 'close');
  // Refused by what it says of itself, before a byte of it is read.
  if (Number(request.headers['content-length'] ?? 0) > config.uploadLimit + 1024 ** 2) throw allowance.tooLarge();
  return withFolder(join(config.data, 'uploads'), async (own) => {
    const folder = join(own, 'files');
    await mkdir(folder);
    for (const archive of await receiveFiles(request, folder, allowance)) {
      await unpack(archive, folder, allowance, gone);
      await rm(archive);
    }
    if (gone.aborted) throw brokenOff();
    return use({ folder, beside: join(own, 'beside'), bytes: allowance.taken, gone });
  });
}

const brokenOff = () => new RequestError(400, 'The upload broke off. Nothing was kept.');

/** @returns paths of the archives among what came */
async function receiveFiles(request: Request, own: string, allowance: Allowance): Promise<string[]> {
  let form: busboy.Busboy;
  try {
    form = busboy({ headers: request.headers, preservePath: true, limits: { files: MOST_FILES } });
  } catch (error) {
    throw new RequestError(
      400,
      `A shot is uploaded as a form with files (multipart/form-data): ${(error as Error).message}.`,
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
    const brokeOff = () => refuse(brokenOff());
    form.on('error', brokeOff);
    form.on('close', resolve);
    request.on('error', brokeOff);
    request.on('close', () => !request.complete && brokeOff());
    // It may have closed before anybody listened.
    if (request.destroyed && !request.complete) brokeOff();
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
    refused.abort();
    await Promise.allSettled(writes);
  }
  return archives;
}

async function writeInto(
  own: string,
  path: string,
  from: Readable,
  allowance: Allowance,
  signal?: AbortSignal,
): Promise<string> {
  try {
    const place = placeIn(own, path);
    await mkdir(dirname(place), { recursive: true });
    await pipeline(from, allowance.meter(), createWriteStream(place), { signal });
    return place;
  } catch (error) {
    if (error instanceof RangeError) throw new RequestError(400, `${error.message}. Nothing was kept.`);
    // `a` beside `a/b`: no system keeps a file and a folder of one name.
    if (['EEXIST', 'ENOTDIR', 'EISDIR', 'ENAMETOOLONG'].includes(String((error as NodeJS.ErrnoException).code)))
      throw new RequestError(
        400,
        `A file of the upload is called ${JSON.stringify(path.slice(0, 80))}, beside another of which it would be part. Nothing was kept.`,
      );
    throw error;
  }
}

/** Names are ours to check, sizes are counted as bytes come out, not believed. */
async function unpack(archive: string, own: string, allowance: Allowance, gone: AbortSignal): Promise<void> {
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
          if (gone.aborted) throw brokenOff();
          if (!entry.fileName.endsWith('/'))
            await writeInto(own, entry.fileName, await openEntry(entry), allowance, gone);
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
