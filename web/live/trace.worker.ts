/** One of several beside the page: traces its share of the region, and begins anew as soon as something changes. */
import { LiveShare } from '../../core/render/frame/live-share.ts';
import type { CompiledScene } from '../../core/render/scene/scene.ts';
import type { ThreadKernel } from '../../core/render/path/kernel-tracer.ts';
import { threadKernel } from './kernels.ts';
import { DONE, TURN, WRITTEN, type LiveScene, type TraceAnswer, type TraceRequest } from './live-messages.ts';

let kernel: WebAssembly.Module;
let share = { index: 0, of: 1 };
let control: Int32Array;
let scene: CompiledScene;
let memory: WebAssembly.Memory | null = null;
let ready: ThreadKernel | null = null;
/** Resolves once messages that came meanwhile were taken. */
const channel = new MessageChannel();
const breathe = () =>
  new Promise<void>((resolve) => {
    channel.port1.onmessage = () => resolve();
    channel.port2.postMessage(null);
  });

self.onmessage = ({ data }: MessageEvent<TraceRequest>) => {
  if (data.do === 'start') ({ kernel, share, control } = data);
  else void look(data);
};

/** Paths go through one instance for as long as the geometry is the same. */
function take(live: LiveScene): void {
  if (live.memory !== memory || ready === null) {
    ready = threadKernel(kernel, live, share.index);
    ({ memory } = live);
  }
  scene = { ...live.scene, kernel: ready.for(live.at) };
}

async function look({ turn, live, settings, region, planes }: TraceRequest & { do: 'look' }): Promise<void> {
  try {
    if (live) take(live);
    const own = new LiveShare(scene, settings, region, share, planes);
    const isCurrent = () => Atomics.load(control, TURN) === turn;
    for (let isMore = true; isMore && isCurrent();) {
      isMore = own.step();
      // What ends after a change is no part of it.
      if (!isCurrent()) return;
      if (!isMore) Atomics.add(control, DONE, 1);
      Atomics.add(control, WRITTEN, 1);
      await breathe();
    }
  } catch (error) {
    self.postMessage({ turn, problem: (error as Error).message } satisfies TraceAnswer);
  }
}
