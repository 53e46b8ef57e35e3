/** The pictures that are kept: opened once, passes of renders fetched as they are wanted, the least used let go. */
import { percentile } from '../../../core/picture/measured.ts';
import { unpackPicture } from '../../../core/picture/planes.ts';
import { decodeFile } from '../decode-pool.ts';
import type { Opened, SourceRef } from '../desk-messages.ts';
import { Source } from '../source.ts';

/** Bytes of planes that are kept. */
const MOST_BYTES = 1.5 * 2 ** 30;

export class Shelf {
  /** In the order of use. */
  private readonly sources = new Map<string, Source>();
  private readonly refs = new Map<string, SourceRef>();
  private readonly opening = new Map<string, Promise<Source>>();
  /** Greatest values of channels, by source and channel. */
  private readonly tops = new Map<string, number>();

  /** @param onRows called as rows of a file are decoded */
  constructor(private readonly onRows: (key: string, opened: Opened) => void) {}

  known(key: string): Source | null {
    return this.sources.get(key) ?? null;
  }

  async open(key: string, ref: SourceRef): Promise<Source> {
    const before = this.refs.get(key);
    const age = ref.kind === 'render' && before?.kind === 'render' ? ref.revision - before.revision : 0;
    const isNewer = age > 0;
    // Who asks with an older state in hand gets what is here.
    if (age >= 0) this.refs.set(key, ref);
    if (isNewer) {
      this.sources.delete(key);
      this.opening.delete(key);
      for (const name of this.tops.keys()) if (name.startsWith(`${key} `)) this.tops.delete(name);
    }
    const known = this.sources.get(key);
    if (known) {
      // Who draws a small picture of it knows fewer of its layers than who looks at all of them.
      if (ref.kind === 'render' && ref.layers.length > known.opened.layers.length) known.opened.layers = ref.layers;
      // Last in the order of use.
      this.sources.delete(key);
      this.sources.set(key, known);
      return known;
    }
    let work = this.opening.get(key);
    if (!work) {
      work = ref.kind === 'picture' ? this.openPicture(key, ref) : Promise.resolve(openRender(ref));
      this.opening.set(key, work);
      work.finally(() => this.opening.delete(key)).catch(() => {});
    }
    const source = await work;
    this.sources.set(key, source);
    this.makeRoom(key);
    return source;
  }

  private async openPicture(key: string, { id, name }: Extract<SourceRef, { kind: 'picture' }>): Promise<Source> {
    const bytes = new Uint8Array(await (await fetched(`/api/pictures/${id}/file`)).arrayBuffer());
    const begin = performance.now();
    let source: Source | null = null;
    const file = await decodeFile(bytes, name, (whole, share) => {
      source ??= Source.ofFile(whole);
      this.sources.set(key, source);
      source.filled();
      if (share > 0 && source.opened.firstMs === 0) source.opened.firstMs = performance.now() - begin;
      source.opened.done = share;
      this.onRows(key, source.opened);
    });
    const whole = source ?? Source.ofFile(file);
    whole.filled();
    whole.opened.done = 1;
    whole.opened.allMs = performance.now() - begin;
    whole.opened.firstMs ||= whole.opened.allMs;
    this.onRows(key, whole.opened);
    return whole;
  }

  private makeRoom(except: string): void {
    let sum = [...this.sources.values()].reduce((all, { bytes }) => all + bytes, 0);
    for (const [key, { bytes }] of this.sources) {
      if (sum <= MOST_BYTES) return;
      if (key === except) continue;
      this.sources.delete(key);
      sum -= bytes;
    }
  }

  /** Fetches passes of a render that are not here yet. */
  private async ensure(key: string, source: Source, channels: string[]): Promise<void> {
    const ref = this.refs.get(key);
    if (ref?.kind !== 'render') return;
    const passes = source.opened.layers.filter(
      (layer) => layer.channels.some((one) => channels.includes(one)) && !source.planes.has(layer.channels[0]),
    );
    if (passes.length === 0) return;
    const names = passes.map(({ name }) => encodeURIComponent(name)).join(',');
    const { picture } = unpackPicture(await (await fetched(`/api/renders/${ref.id}/picture?passes=${names}`)).arrayBuffer()); // prettier-ignore
    const { x, y, width, height } = picture;
    for (const [name, values] of picture.channels) source.put(name, { values, window: { x, y, width, height } });
  }

  /** @returns the picture, with the channels of these layers */
  async ready(key: string, layers: string[]): Promise<Source> {
    const source = this.sources.get(key) ?? (await this.open(key, this.refs.get(key)!));
    await this.ensure(
      key,
      source,
      layers.flatMap((name) => source.layer(name)?.channels ?? []),
    );
    return source;
  }

  /** Where a scale of one-channel layers ends, and where light is normalised to. */
  topOf(key: string, source: Source, channel: string, share: number): number {
    const name = `${key} ${channel}`;
    const known = source.opened.done === 1 ? this.tops.get(name) : undefined;
    if (known !== undefined) return known;
    const values = source.planes.get(channel)!.values;
    const step = Math.max(1, Math.floor(values.length / 40_000));
    const some: number[] = [];
    for (let i = 0; i < values.length; i += step) if (values[i] - values[i] === 0) some.push(values[i]);
    const top = percentile(some, share) || 1;
    this.tops.set(name, top);
    return top;
  }
}

function openRender({ layers, frame }: Extract<SourceRef, { kind: 'render' }>): Source {
  return new Source({ displayWindow: frame, pixelAspect: 1, layers, mattes: [], done: 1, firstMs: 0, allMs: 0 });
}

async function fetched(path: string): Promise<Response> {
  const response = await fetch(path).catch(() => null);
  if (!response) throw new Error('The server does not answer.');
  if (response.ok) return response;
  const body = (await response.json().catch(() => null)) as { error?: string } | null;
  throw new Error(body?.error ?? `The server answered ${response.status}.`);
}
