/**
 * Bytes by their SHA-256, in a folder that several machines can share. A blob is written under a
 * temporary name, synced and renamed, so that what has its name is whole.
 */
import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { mkdir, open, readFile, rename, rm, stat, readdir } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Readable } from 'node:stream';

export interface BlobWriter {
  write(bytes: Uint8Array): Promise<void>;
  /** @returns the hash to find it by */
  keep(): Promise<string>;
  drop(): Promise<void>;
}

export class BlobStore {
  constructor(private readonly folder: string) {}

  /** Where a blob stands, or would. */
  place(hash: string): string {
    return join(this.folder, hash.slice(0, 2), hash);
  }

  /** @returns the hash to find it by */
  async put(bytes: Uint8Array): Promise<string> {
    const hash = createHash('sha256').update(bytes).digest('hex');
    const place = this.place(hash);
    if (await stat(place).catch(() => null)) return hash;
    await mkdir(dirname(place), { recursive: true });
    const temporary = `${place}.${randomUUID()}.part`;
    const file = await open(temporary, 'wx');
    try {
      await file.writeFile(bytes);
      await file.sync();
    } catch (error) {
      await rm(temporary, { force: true });
      throw error;
    } finally {
      await file.close();
    }
    await rename(temporary, place);
    return hash;
  }

  /** A blob that is written as its bytes come, however many they are. */
  async begin(): Promise<BlobWriter> {
    await mkdir(this.folder, { recursive: true });
    const temporary = join(this.folder, `${randomUUID()}.part`);
    const file = await open(temporary, 'wx');
    const hash = createHash('sha256');
    return {
      async write(bytes) {
        hash.update(bytes);
        await file.writeFile(bytes);
      },
      keep: async () => {
        await file.sync();
        await file.close();
        const name = hash.digest('hex');
        await mkdir(dirname(this.place(name)), { recursive: true });
        await rename(temporary, this.place(name));
        return name;
      },
      async drop() {
        await file.close();
        await rm(temporary, { force: true });
      },
    };
  }

  /** Its bytes as they are read; what is wrong with them is told by the stream. */
  stream(hash: string): Readable {
    return createReadStream(this.place(hash));
  }

  /** Throws when it is not there, or not what it was. */
  async get(hash: string): Promise<Uint8Array> {
    const bytes = await readFile(this.place(hash));
    const found = createHash('sha256').update(bytes).digest('hex');
    if (found !== hash) throw new Error(`blob ${hash} was changed on disk: its bytes have the hash ${found}`);
    return bytes;
  }

  /** Removes blobs older than `age` milliseconds that `keep` does not name; returns how many. */
  async sweep(keep: Set<string>, age: number): Promise<number> {
    let removed = 0;
    for (const shelf of await readdir(this.folder).catch(() => []))
      for (const name of shelf.endsWith('.part') ? [''] : await readdir(join(this.folder, shelf))) {
        if (keep.has(name)) continue;
        const path = join(this.folder, shelf, name);
        if (Date.now() - (await stat(path)).mtimeMs < age) continue;
        await rm(path, { force: true });
        removed++;
      }
    return removed;
  }
}
