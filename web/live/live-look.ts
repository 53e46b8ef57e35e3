/**
 * A region rendered in this browser while values change: a worker that compiles and draws, and others that trace. A
 * change ends what is traced at once and begins anew; the picture before stays up until pixels of the new one are there.
 *
 * @example
 * const live = new LiveLook((seen) => show(seen.image), (problem) => say(problem));
 * live.version({ document, manifest });
 * live.look({ region, values: { '/limits/transmission': 20 }, view });
 */
import type { Region } from '../../core/data/picture.ts';
import type { ControlValues } from '../../core/document/set-values.ts';
import type { View } from '../../core/picture/view.ts';
import { livePlanes, type LivePlanes } from '../../core/render/frame/live-share.ts';
import { renderKernel } from './kernels.ts';
import {
  CONTROL_WORDS,
  DONE,
  TURN,
  WRITTEN,
  type Drawn,
  type LiveVersion,
  type PrepareAnswer,
  type Prepared,
  type PrepareRequest,
  type TraceAnswer,
  type TraceRequest,
} from './live-messages.ts';

export interface LiveWanted {
  region: Region;
  values: ControlValues;
  view: View;
}

export interface LiveSeen {
  image: ImageData;
  region: Region;
  /** Visible grain, once every pixel has two groups of samples. */
  grain: number | null;
  /** Mean over the pixels, and what the sheet gives. */
  samples: number;
  target: number;
  isDone: boolean;
  /** Milliseconds from the change to its first pixels, and to this picture. */
  first: number;
  since: number;
}

/** So many workers trace at most; one core is left for the page and one for the worker that draws. */
const MOST_WORKERS = 6;

export const canLookLive = (): boolean => globalThis.crossOriginIsolated;

export class LiveLook {
  private readonly preparer = new Worker(new URL('./prepare.worker.ts', import.meta.url), { type: 'module' });
  private readonly tracers: Worker[] = [];
  private readonly control = new Int32Array(new SharedArrayBuffer(CONTROL_WORDS * 4));
  private readonly started: Promise<void>;
  private wanted: LiveWanted | null = null;
  private planes: LivePlanes | null = null;
  private planesOf = '';
  /** Key of the scene that the tracers have. */
  private sceneKey = 0;
  private turn = 0;
  /** The turn that the tracers were sent last. */
  private traced = 0;
  private target = 0;
  private begun = 0;
  private first = 0;
  private drawn = 0;
  private isDrawing = false;
  private frame = 0;

  constructor(
    private readonly onSeen: (seen: LiveSeen) => void,
    private readonly onProblem: (problem: string) => void,
  ) {
    this.preparer.onmessage = ({ data }: MessageEvent<PrepareAnswer>) => this.take(data);
    this.preparer.onerror = ({ message }) => this.onProblem(message || 'The worker that compiles ended.');
    this.started = this.start();
    this.started.catch((error: Error) => this.onProblem(error.message));
    const tick = () => {
      this.draw();
      this.frame = requestAnimationFrame(tick);
    };
    tick();
  }

  private async start(): Promise<void> {
    const kernel = await renderKernel();
    const of = Math.max(1, Math.min(MOST_WORKERS, navigator.hardwareConcurrency - 1));
    for (let index = 0; index < of; index++) {
      const tracer = new Worker(new URL('./trace.worker.ts', import.meta.url), { type: 'module' });
      tracer.onmessage = ({ data }: MessageEvent<TraceAnswer>) =>
        data.turn === this.turn && this.onProblem(data.problem);
      tracer.onerror = ({ message }) => this.onProblem(message || 'A worker that traces ended.');
      tracer.postMessage({ do: 'start', kernel, share: { index, of }, control: this.control } satisfies TraceRequest);
      this.tracers.push(tracer);
    }
  }

  version(version: LiveVersion): void {
    this.ask({ do: 'version', version });
  }

  look(wanted: LiveWanted): void {
    this.wanted = wanted;
    this.begun = performance.now();
    this.first = 0;
    // Whatever is traced for the turn before ends.
    Atomics.store(this.control, TURN, ++this.turn);
    // Values are plain copies: what a page observes cannot be sent.
    this.ask({ do: 'prepare', turn: this.turn, values: JSON.parse(JSON.stringify(wanted.values)) as ControlValues });
  }

  /** The same picture by another exposure. */
  see(view: View): void {
    if (this.wanted) this.wanted = { ...this.wanted, view };
    this.drawn = -1;
  }

  end(): void {
    cancelAnimationFrame(this.frame);
    for (const worker of [this.preparer, ...this.tracers]) worker.terminate();
  }

  private readonly ask = (request: PrepareRequest) => this.preparer.postMessage(request);

  private take(answer: PrepareAnswer): void {
    if ('image' in answer) {
      this.isDrawing = false;
      if (answer.turn === this.turn) this.show(answer);
    } else if (answer.turn !== this.turn) return;
    else if ('problem' in answer) this.onProblem(answer.problem);
    else void this.started.then(() => this.trace(answer));
  }

  private trace({ turn, settings, live }: Prepared): void {
    if (turn !== this.turn || !this.wanted) return;
    const { region } = this.wanted;
    const size = JSON.stringify(region);
    if (this.planesOf !== size) {
      this.planes = livePlanes(region, (bytes) => new SharedArrayBuffer(bytes));
      this.planesOf = size;
    }
    this.target = settings.samples;
    Atomics.store(this.control, WRITTEN, 0);
    Atomics.store(this.control, DONE, 0);
    this.drawn = 0;
    this.traced = turn;
    const isKnown = live.key === this.sceneKey;
    this.sceneKey = live.key;
    for (const tracer of this.tracers)
      tracer.postMessage({ do: 'look', turn, live: isKnown ? null : live, settings, region, planes: this.planes! } satisfies TraceRequest); // prettier-ignore
  }

  private draw(): void {
    const written = Atomics.load(this.control, WRITTEN);
    // Until the present turn is traced, what is there is of the one before.
    if (this.isDrawing || !this.wanted || !this.planes || this.traced !== this.turn) return;
    if (written === 0 || written === this.drawn) return;
    this.drawn = written;
    this.isDrawing = true;
    const { region, view } = this.wanted;
    this.ask({ do: 'draw', turn: this.turn, planes: this.planes, region: { ...region }, view: { ...view } });
  }

  private show({ image, grain, samples }: Drawn): void {
    const since = performance.now() - this.begun;
    this.first ||= since;
    const isDone = Atomics.load(this.control, DONE) === this.tracers.length;
    this.onSeen({ image, region: this.wanted!.region, grain, samples, target: this.target, isDone, first: this.first, since }); // prettier-ignore
  }
}
