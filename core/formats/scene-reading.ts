/**
 * What every reader of scenes does alike: it opens further files, tells what it did not understand and what it
 * put right, and takes each image and each file once.
 */
import type { TranscodeKtx2 } from './ktx2.ts';
import { leadPath } from './paths.ts';
import type { SceneFiles } from './scene-files.ts';
import { emptyScene, type Remark, type SourceReference, type SourceScene } from './source-scene.ts';

export interface ReadOptions {
  /** Values of variables in paths, by name. */
  variables?: Record<string, string>;
  /** Gives the decoder of Draco's compressed meshes; without one they are not read. */
  draco?: () => Promise<unknown>;
  /** Gives what unpacks KTX 2 textures; without it they are not read. */
  ktx2?: () => Promise<TranscodeKtx2>;
}

const TILE = '<UDIM>';
/** Ten rows of ten: tiles beyond are looked for by nobody. */
const [FIRST_TILE, LAST_TILE] = [1001, 1100];

/** Bytes that all files of a scene may have together. */
const MOST_BYTES = 4 * 2 ** 30;

export class SceneReading {
  readonly scene: SourceScene;
  private readonly opened = new Map<string, Promise<Uint8Array | null>>();
  private readonly references = new Map<string, SourceReference>();
  private readonly images = new Map<string, number>();
  private readonly folded = new Map<string, { remark: Remark; count: number; what: string }>();
  private bytes = 0;

  constructor(
    readonly files: SceneFiles,
    format: SourceScene['format'],
    file: string,
    size: number,
    readonly options: ReadOptions = {},
  ) {
    this.scene = emptyScene(format, file, size);
  }

  notUnderstood(where: string, what: string): void {
    this.scene.notUnderstood.push({ where, what });
  }

  /** The same thing again and again, in one remark with the first place and a count. */
  notUnderstoodAgain(kind: string, where: string, what: string): void {
    this.fold(this.scene.notUnderstood, `?${kind}`, where, what);
  }

  repaired(where: string, what: string): void {
    this.scene.repaired.push({ where, what });
  }

  repairedAgain(kind: string, where: string, what: string): void {
    this.fold(this.scene.repaired, `!${kind}`, where, what);
  }

  private fold(list: Remark[], key: string, where: string, what: string): void {
    const before = this.folded.get(key);
    if (!before) {
      const remark = { where, what };
      list.push(remark);
      this.folded.set(key, { remark, count: 1, what });
      return;
    }
    before.count += 1;
    before.remark.what = `${before.what} (${before.count.toLocaleString('en')} times; here first)`;
  }

  /**
   * Looks up a file that another one names, and records the reference.
   * @param file the file that names it
   * @param where its place there, for messages
   */
  async refer(
    kind: SourceReference['kind'],
    file: string,
    written: string,
    where: string,
  ): Promise<{ reference: SourceReference; bytes: Uint8Array | null }> {
    const key = `${kind} ${where} ${written}`;
    const same = this.references.get(key);
    if (same) return { reference: same, bytes: same.resolved === null ? null : await this.open(same.resolved) };
    const led = leadPath(file, written, this.options.variables);
    if (led.backslashes) this.repairedAgain('backslashes', where, `backslashes in a path read as slashes: ${written}`);
    let path = led.path;
    let bytes = await this.open(path);
    let state: SourceReference['state'] = led.kind === 'inside' ? 'ok' : led.kind;
    const otherCase = bytes || led.kind !== 'inside' ? null : await this.files.otherCase(path);
    if (otherCase !== null) {
      bytes = await this.open(otherCase);
      path = otherCase;
      state = 'case';
      this.repaired(where, `"${written}" is written in another case than the file "${otherCase}"`);
    }
    if (!bytes && led.kind !== 'absolute') state = 'missing';
    const reference: SourceReference = {
      kind,
      path: written,
      neededBy: where,
      resolved: bytes ? path : null,
      bytes: bytes?.byteLength ?? 0,
      state,
      used: false,
    };
    this.scene.references.push(reference);
    this.references.set(key, reference);
    return { reference, bytes };
  }

  /** Number of an image that a file names; the same file is one image. `<UDIM>` stands for all its tiles. */
  async image(file: string, written: string, where: string): Promise<number> {
    const tiles = written.includes(TILE) ? await this.tiles(file, written) : [];
    const { reference, bytes } = await this.refer('image', file, tiles[0]?.written ?? written, where);
    reference.used = true;
    for (const tile of tiles.slice(1)) (await this.refer('image', file, tile.written, where)).reference.used = true;
    const key = reference.resolved ?? leadPath(file, written, this.options.variables).path;
    const known = this.images.get(key);
    if (known !== undefined) return known;
    const number = this.scene.images.length;
    this.scene.images.push({
      path: written,
      where,
      resolved: reference.resolved,
      bytes,
      tiles: tiles.map(({ number: tile, path, bytes: own }) => ({ number: tile, path, bytes: own })),
    });
    this.images.set(key, number);
    return number;
  }

  /** Tiles that are there, ten to a row from 1001 on, as texture tiles are numbered. */
  private async tiles(file: string, written: string) {
    const found: { number: number; written: string; path: string; bytes: Uint8Array }[] = [];
    for (let tile = FIRST_TILE; tile <= LAST_TILE; tile++) {
      const one = written.replaceAll(TILE, String(tile));
      const { path } = leadPath(file, one, this.options.variables);
      const bytes = await this.open(path);
      if (bytes) found.push({ number: tile, written: one, path, bytes });
    }
    return found;
  }

  private open(path: string): Promise<Uint8Array | null> {
    let file = this.opened.get(path);
    if (!file) {
      file = this.files.read(path).then((bytes) => {
        this.bytes += bytes?.byteLength ?? 0;
        if (this.bytes > MOST_BYTES)
          throw new RangeError(`${this.scene.file}: its files have more than ${MOST_BYTES / 2 ** 30} GB together`);
        return bytes;
      });
      this.opened.set(path, file);
    }
    return file;
  }
}
