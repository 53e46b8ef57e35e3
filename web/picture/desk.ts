/**
 * The page's way to the worker that keeps pictures.
 *
 * @example
 * await desk.ask('open', { key: 'p12', ref: { kind: 'picture', id: 12, name: 'lantern.1001.exr' } });
 * const [drawn] = await desk.ask('draw', { cells: [cell], look });
 */
import type { Answers, DeskRequest, FromDesk, Opened } from './desk-messages.ts';

type Question<K extends DeskRequest['do']> = Omit<Extract<DeskRequest, { do: K }>, 'do'>;

class Desk {
  private worker: Worker | null = null;
  private readonly waiting = new Map<number, { resolve(value: never): void; reject(error: Error): void }>();
  private next = 1;
  /** Hears of pictures whose rows come in. */
  onRows: (key: string, opened: Opened) => void = () => {};

  ask<K extends DeskRequest['do']>(what: K, question: Question<K>): Promise<Answers[K]> {
    const id = this.next++;
    return new Promise<Answers[K]>((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      this.begun().postMessage({ ...question, do: what, id });
    });
  }

  /** Loads the worker, so that it is there when the first picture is wanted. */
  begin(): void {
    this.begun();
  }

  private begun(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(new URL('./desk.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<FromDesk>) => {
      if ('event' in data) {
        if (data.event === 'rows') this.onRows(data.key, data.opened);
        return;
      }
      const entry = this.waiting.get(data.id);
      this.waiting.delete(data.id);
      if ('error' in data) entry?.reject(new Error(data.error));
      else entry?.resolve(data.result as never);
    };
    return (this.worker = worker);
  }
}

export const desk = new Desk();
