/**
 * Pictures of renders on the page: fetched by render and pass, kept and drawn by the picture worker.
 *
 * @example
 * await pictures.load(render.id, 'beauty');
 * const image = await pictures.draw(render.id, 'beauty', 'light', { exposure: 2, gamma: 1.25 }, 1);
 */
import { getBytes } from '../remote/client.ts';
import type { View } from '../../core/picture/view.ts';
import type { PassLook } from '../../core/render/film/pass-list.ts';
import type { Loaded, WorkerAnswer, WorkerRequest } from './picture.worker.ts';

/** Pictures kept at a time; the least recently used goes. */
const KEPT = 24;

type Wanted = WorkerRequest extends infer R ? (R extends unknown ? Omit<R, 'id'> : never) : never;

class Pictures {
  private readonly worker = new Worker(new URL('./picture.worker.ts', import.meta.url), { type: 'module' });
  private readonly waiting = new Map<number, { resolve(value: never): void; reject(error: Error): void }>();
  private readonly loaded = new Map<string, Loaded>();
  private next = 1;

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<WorkerAnswer>) => {
      const entry = this.waiting.get(data.id);
      this.waiting.delete(data.id);
      if ('error' in data) entry?.reject(new Error(data.error));
      else entry?.resolve(data.result as never);
    };
  }

  private ask<T>(wanted: Wanted, transfer: Transferable[] = []): Promise<T> {
    const id = this.next++;
    return new Promise<T>((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      this.worker.postMessage({ ...wanted, id }, transfer);
    });
  }

  /** Fetches a pass of a render as it is now, replacing an older one. */
  async load(renderId: number, pass: string, signal?: AbortSignal): Promise<Loaded> {
    const key = `${renderId}/${pass}`;
    const bytes = await getBytes(`/renders/${renderId}/picture?passes=${encodeURIComponent(pass)}`, signal);
    const loaded = await this.ask<Loaded>({ do: 'load', key, bytes }, [bytes]);
    this.loaded.delete(key);
    this.loaded.set(key, loaded);
    if (this.loaded.size > KEPT) {
      const oldest = this.loaded.keys().next().value!;
      this.loaded.delete(oldest);
      void this.ask({ do: 'forget', key: oldest });
    }
    return loaded;
  }

  /** What is here of a pass, or null. */
  known(renderId: number, pass: string): Loaded | null {
    return this.loaded.get(`${renderId}/${pass}`) ?? null;
  }

  /** Display bytes; null when the pass is not loaded. `top` scales one-channel passes. */
  draw(renderId: number, pass: string, look: PassLook, view: View, top: number): Promise<ImageData | null> {
    return this.ask({ do: 'draw', key: `${renderId}/${pass}`, look, view: { ...view }, top });
  }
}

export const pictures = new Pictures();
