/** One file on its way in as the body of a request, streamed to a place that is gone when the request is. */
import { createHash } from 'node:crypto';
import type { Request, Response } from 'express';
import { createWriteStream } from 'node:fs';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { config } from '../config.ts';
import { RequestError } from '../errors.ts';
import type { ReceivedFile } from '../received.ts';
import { Allowance } from './allowance.ts';
import { goneSignal } from './gone.ts';
import { readOut } from './read-out.ts';
import { withFolder } from '../storage/upload-folders.ts';

/**
 * @param use what to do with the file; it is gone afterwards
 * @throws RequestError 400 when it breaks off, 413 when it is too large
 */
export function receiveFile<T>(
  request: Request,
  response: Response,
  use: (file: ReceivedFile) => Promise<T>,
): Promise<T> {
  const gone = goneSignal(response);
  return withFolder(join(config.data, 'uploads'), async (folder) => {
    const allowance = new Allowance(config.uploadLimit);
    const hash = createHash('sha256');
    const hashed = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        hash.update(chunk);
        done(null, chunk);
      },
    });
    const place = join(folder, 'file');
    try {
      if (Number(request.headers['content-length'] ?? 0) > config.uploadLimit) throw allowance.tooLarge();
      await pipeline(request, allowance.meter(), hashed, createWriteStream(place));
    } catch (error) {
      await readOut(request);
      if ((error as NodeJS.ErrnoException).code === 'ERR_STREAM_PREMATURE_CLOSE' || gone.aborted)
        throw new RequestError(400, 'The upload broke off. Nothing was kept.');
      throw error;
    }
    return use({ place, bytes: allowance.taken, hash: hash.digest('hex'), gone });
  });
}
