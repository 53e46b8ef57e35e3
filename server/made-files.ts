/**
 * Files that are made of what is stored and can be made again: pictures and figures of renders, packages. Each is made
 * once for a state of its source, whoever asks for it meanwhile, and older states go.
 *
 * @example
 * const place = await made.place({ of: 'figures-12', state: '40' }, (at) => apart('figuresOfFilms', { …, place: at }));
 */
import { randomUUID } from 'node:crypto';
import { mkdir, readdir, rename, rm, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';

export interface MadeKey {
  /** Letters, digits, `_`, `-` and `.`. */
  of: string;
  /** The same state has the same file; letters, digits. */
  state: string;
}

export class MadeFiles {
  private readonly making = new Map<string, Promise<string>>();

  /** @param most bytes that are kept; what was asked for longest ago goes first */
  constructor(
    private readonly folder: string,
    private readonly most: number,
  ) {}

  /** @param make writes the file at the place it is given */
  place({ of, state }: MadeKey, make: (place: string) => Promise<unknown>): Promise<string> {
    const name = `${of}@${state}`;
    const present = this.making.get(name) ?? this.find(name, of, make).finally(() => this.making.delete(name));
    this.making.set(name, present);
    return present;
  }

  private async find(name: string, of: string, make: (place: string) => Promise<unknown>): Promise<string> {
    const place = join(this.folder, name);
    const now = new Date();
    const isThere = await utimes(place, now, now).then(
      () => true,
      () => false,
    );
    if (isThere) return place;
    await mkdir(this.folder, { recursive: true });
    const half = join(this.folder, `${randomUUID()}.part`);
    try {
      await make(half);
      await rename(half, place);
    } finally {
      await rm(half, { force: true });
    }
    for (const other of await readdir(this.folder))
      if (other.startsWith(`${of}@`) && other !== name) await rm(join(this.folder, other), { force: true });
    return place;
  }

  /** Takes away what is too much, and what a process that died left half made. */
  async trim(): Promise<void> {
    const names = await readdir(this.folder).catch(() => []);
    const files = [];
    for (const name of names) {
      const place = join(this.folder, name);
      const found = await stat(place).catch(() => null);
      if (found) files.push({ place, bytes: found.size, at: found.mtimeMs, isHalf: name.endsWith('.part') });
    }
    files.sort((a, b) => b.at - a.at);
    let sum = 0;
    for (const { place, bytes, at, isHalf } of files) {
      sum += bytes;
      if (sum > this.most || (isHalf && Date.now() - at > HALF_MADE_MS)) await rm(place, { force: true });
    }
  }
}

const HALF_MADE_MS = 3600_000;
