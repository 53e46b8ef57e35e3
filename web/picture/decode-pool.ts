/**
 * Workers that decode pictures, the rows of one file on all of them: the beauty's part first, from the top.
 *
 * @example
 * const file = await decodeFile(bytes, 'lantern.1001.exr', (begun, share) => redraw());
 */
import { blocksOf } from '../../core/formats/exr/blocks.ts';
import { openExr, planesFor } from '../../core/formats/exr/read.ts';
import { layersOf } from '../../core/formats/layers.ts';
import { extensionOf } from '../../core/formats/paths.ts';
import type { PictureFile, PicturePart } from '../../core/formats/picture-file.ts';
import type { DecodeAnswer, DecodeRequest } from './decode.worker.ts';

/** So many at most; one core is left for the page. */
const MOST_WORKERS = 4;
/** Rows of pixels that are decoded between two looks at what is there. */
const ROWS_AT_ONCE = 64;

type Wanted = DecodeRequest extends infer R ? (R extends unknown ? Omit<R, 'id'> : never) : never;
type Answered = DecodeAnswer extends infer R ? (R extends unknown ? Omit<R, 'id'> : never) : never;

class DecodePool {
  private readonly idle: Worker[] = [];
  private readonly jobs: { wanted: Wanted; resolve(answer: Answered): void; reject(error: Error): void }[] = [];
  private begun = 0;
  private next = 1;

  run(wanted: Wanted): Promise<Answered> {
    return new Promise((resolve, reject) => {
      this.jobs.push({ wanted, resolve, reject });
      this.hand();
    });
  }

  private hand(): void {
    const job = this.jobs[0];
    if (!job) return;
    const worker = this.idle.pop() ?? this.another();
    if (!worker) return;
    this.jobs.shift();
    const id = this.next++;
    worker.onmessage = ({ data }: MessageEvent<DecodeAnswer>) => {
      this.idle.push(worker);
      if ('error' in data) job.reject(new Error(data.error));
      else job.resolve(data);
      this.hand();
    };
    worker.onerror = ({ message }) => {
      this.begun -= 1;
      job.reject(new Error(message || 'a worker that decodes pictures failed'));
      this.hand();
    };
    worker.postMessage({ ...job.wanted, id } as DecodeRequest);
  }

  private another(): Worker | null {
    const most = Math.max(1, Math.min(MOST_WORKERS, navigator.hardwareConcurrency - 1));
    if (this.begun >= most) return null;
    this.begun += 1;
    return new Worker(new URL('./decode.worker.ts', import.meta.url), { type: 'module' });
  }
}

const pool = new DecodePool();

/**
 * @param progress hears of the file as soon as its header is read, and whenever more of its rows are there, with the
 * share of all; planes that it has are filled as it goes
 */
export async function decodeFile(
  bytes: Uint8Array,
  name: string,
  progress: (file: PictureFile, share: number) => void,
): Promise<PictureFile> {
  if (extensionOf(name) !== 'exr' || typeof SharedArrayBuffer === 'undefined') {
    const answer = await pool.run({ do: 'whole', name, bytes });
    return (answer as { file: PictureFile }).file;
  }
  const { isMultiPart, parts: headers, tables } = openExr(bytes, name);
  const opened = { isMultiPart, parts: headers, tables };
  const shared = new Uint8Array(new SharedArrayBuffer(bytes.length));
  shared.set(bytes);
  const parts = opened.parts.map((part): PicturePart => ({
    ...part,
    width: part.dataWindow.maxX - part.dataWindow.minX + 1,
    height: part.dataWindow.maxY - part.dataWindow.minY + 1,
    planes: part.isDeep ? new Map() : planesFor(part, () => true, (size) => new SharedArrayBuffer(size)), // prettier-ignore
    missingChunks: 0,
    broken: [],
  }));
  const file: PictureFile = { format: 'OpenEXR', isForDisplay: false, parts };
  progress(file, 0);
  const isBeauty = (part: PicturePart) => layersOf(part.channels.map((one) => one.name)).some(({ role }) => role === 'beauty'); // prettier-ignore
  const order = parts
    .map((_, number) => number)
    .sort((a, b) => Number(isBeauty(parts[b])) - Number(isBeauty(parts[a])));
  const pieces = order.flatMap((number) => (parts[number].isDeep ? [] : piecesOf(opened.parts[number], number)));
  let done = 0;
  await Promise.all(
    pieces.map(async ({ part, chunks }) => {
      const answer = await pool.run({ do: 'chunks', name, bytes: shared, opened, part, planes: parts[part].planes, chunks }); // prettier-ignore
      parts[part].missingChunks += (answer as { missingChunks: number }).missingChunks;
      progress(file, ++done / pieces.length);
    }),
  );
  return file;
}

function piecesOf(part: ReturnType<typeof openExr>['parts'][number], number: number) {
  const blocks = blocksOf(part);
  const rows = blocks[0].maxY - blocks[0].minY + 1;
  const across = part.tiles ? Math.ceil((part.dataWindow.maxX - part.dataWindow.minX + 1) / part.tiles.width) : 1;
  const step = Math.max(1, Math.floor(ROWS_AT_ONCE / rows)) * across;
  return Array.from({ length: Math.ceil(blocks.length / step) }, (_, i) => ({
    part: number,
    chunks: { from: i * step, to: Math.min(blocks.length, (i + 1) * step) },
  }));
}
