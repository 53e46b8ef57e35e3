/**
 * Bytes by their SHA-256, in a folder that several machines can share. A blob is written under a
 * temporary name, synced and renamed, so that what has its name was whole when it came; what disks do to it later is
 * found on every read, and mended by putting the same bytes again.
 */
import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { copyFile, mkdir, open, readdir, readFile, rename, rm, stat, utimes } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Readable } from 'node:stream';
import { setTimeout as sleep } from 'node:timers/promises';

/** Bytes that are gone, or are not what they were. */
export class DamagedBlob extends Error {
  constructor(
    readonly hash: string,
    readonly isGone: boolean,
    /** Path of the file they are, where it is one of a shot. */
    readonly path: string | null = null,
  ) {
    const how = isGone ? 'gone from the disk' : 'changed on the disk';
    super(
      path === null
        ? `Stored bytes ${hash.slice(0, 12)} ${isGone ? 'are' : 'were'} ${how}.`
        : `${path} ${isGone ? 'is' : 'was'} ${how}. Import it again (Intake, Files).`,
    );
    this.name = 'DamagedBlob';
  }
}

export interface BlobWriter {
  write(bytes: Uint8Array): Promise<void>;
  /** @returns the hash to find it by */
  keep(): Promise<string>;
  drop(): Promise<void>;
}

/** What is about to be removed stands here for a moment. */
const TRASH = 'trash';
const MOMENT_MS = 50;

export class BlobStore {
  /** Files that were read through and found whole, as they stood then. */
  private readonly whole = new Map<string, string>();

  constructor(readonly folder: string) {}

  /** Where a blob stands, or would. */
  place(hash: string): string {
    return join(this.folder, hash.slice(0, 2), hash);
  }

  /**
   * Keeps bytes. Those that are there already are held against what is put, mended where they differ, and count as new
   * for `collect`.
   * @returns the hash to find them by
   */
  async put(bytes: Uint8Array): Promise<string> {
    const hash = createHash('sha256').update(bytes).digest('hex');
    const place = this.place(hash);
    if (await this.refresh(place, bytes)) return hash;
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

  /** Whether the same bytes stand there; then their time is now. */
  private async refresh(place: string, bytes: Uint8Array): Promise<boolean> {
    try {
      const now = new Date();
      // First, so that a collector which has not moved it away yet sees that it is wanted again.
      await utimes(place, now, now);
      return (await readFile(place)).equals(bytes);
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'ENOENT') return false;
      throw error;
    }
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
        this.whole.set(name, await stateOf(this.place(name)));
        return name;
      },
      async drop() {
        await file.close();
        await rm(temporary, { force: true });
      },
    };
  }

  /** Takes a file in as a blob; the file is gone then. @param hash of its bytes */
  async adopt(file: string, hash: string): Promise<void> {
    const place = this.place(hash);
    await mkdir(dirname(place), { recursive: true });
    const temporary = `${place}.${randomUUID()}.part`;
    try {
      await rename(file, temporary).catch(async (error: NodeJS.ErrnoException) => {
        // Uploads and blobs may be on different disks.
        if (error.code !== 'EXDEV') throw error;
        await copyFile(file, temporary);
        await rm(file);
      });
      const now = new Date();
      await utimes(temporary, now, now);
      const opened = await open(temporary, 'r+');
      await opened.sync().finally(() => opened.close());
      await rename(temporary, place);
    } catch (error) {
      await rm(temporary, { force: true });
      throw error;
    }
    this.whole.set(hash, await stateOf(place));
  }

  /** @throws DamagedBlob when it is not there, or not what it was */
  async get(hash: string): Promise<Uint8Array> {
    const bytes = await this.orGone(hash, () => readFile(this.place(hash)));
    const found = createHash('sha256').update(bytes).digest('hex');
    if (found !== hash) throw new DamagedBlob(hash, false);
    return bytes;
  }

  /**
   * Where it stands, for what reads or sends it in pieces. It is read through first, once for each state of the file.
   * @throws DamagedBlob
   */
  async sound(hash: string): Promise<string> {
    const place = this.place(hash);
    const state = await this.orGone(hash, () => stateOf(place));
    if (this.whole.get(hash) === state) return place;
    const found = createHash('sha256');
    for await (const piece of createReadStream(place, { highWaterMark: 2 ** 18 })) found.update(piece as Buffer);
    if (found.digest('hex') !== hash) throw new DamagedBlob(hash, false);
    this.whole.set(hash, state);
    return place;
  }

  /** Its bytes as they are read. @throws DamagedBlob */
  async stream(hash: string): Promise<Readable> {
    return createReadStream(await this.sound(hash));
  }

  /** What one is on disk, bytes; 0 where it is gone. */
  async size(hash: string): Promise<number> {
    return (await stat(this.place(hash)).catch(() => null))?.size ?? 0;
  }

  /**
   * Removes blobs, and half-written ones, older than `age` milliseconds that `keep` does not name. One that is put again
   * meanwhile stays: each is moved aside, looked at once more, and moved back where its time is new.
   * @returns how many went, and their bytes
   */
  async collect(keep: Set<string>, age: number): Promise<{ removed: number; bytes: number }> {
    const told = { removed: 0, bytes: 0 };
    const isOld = (found: { mtimeMs: number }) => Date.now() - found.mtimeMs >= age;
    const consider = async (place: string, name: string) => {
      const found = await stat(place).catch(() => null);
      if (!found || !isOld(found)) return;
      const aside = join(this.folder, TRASH, name);
      await rename(place, aside);
      if (isOld(await stat(aside))) {
        await rm(aside, { force: true });
        told.removed += 1;
        told.bytes += found.size;
      } else await rename(aside, place);
    };
    await mkdir(join(this.folder, TRASH), { recursive: true });
    for (const shelf of await readdir(this.folder)) {
      const at = join(this.folder, shelf);
      if (shelf.endsWith('.part')) await consider(at, shelf);
      else for (const name of await readdir(at)) if (!keep.has(name)) await consider(join(at, name), name);
    }
    return told;
  }

  /** One that is missing may be what a collector looks at this moment. */
  private async orGone<T>(hash: string, read: () => Promise<T>): Promise<T> {
    for (const last of [false, true]) {
      try {
        return await read();
      } catch (error) {
        const { code } = error as NodeJS.ErrnoException;
        if (code !== 'ENOENT' && code !== 'ENOTDIR') throw error;
        if (last) break;
        await sleep(MOMENT_MS);
      }
    }
    throw new DamagedBlob(hash, true);
  }
}

async function stateOf(place: string): Promise<string> {
  const { size, mtimeMs, ino } = await stat(place);
  return `${size} ${mtimeMs} ${ino}`;
}
