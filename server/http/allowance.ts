import { Transform } from 'node:stream';
import { RequestError } from '../errors.ts';

/** Bytes that an upload may still bring, over all its files, packed or not. */
export class Allowance {
  private left: number;
  constructor(private readonly limit: number) {
    this.left = limit;
  }

  get taken(): number {
    return this.limit - this.left;
  }

  /** @throws RequestError 413 */
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

function tellBytes(bytes: number): string {
  return bytes >= 1024 ** 3 ? `${+(bytes / 1024 ** 3).toFixed(1)} GB` : `${+(bytes / 1024 ** 2).toFixed(1)} MB`;
}
