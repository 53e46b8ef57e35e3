/** How much longer answers take while fifty pages follow a shot, twenty shots come in, and the queue is full. */
import { Worker } from 'node:worker_threads';
import { flatPng } from '../api/foreign-bytes.ts';
import type { ShotSummary } from '../../core/contracts/events.ts';
import { Dusting, until } from '../api/harness.ts';
import { filesOf, smallShot } from '../api/small-shot.ts';
import { median } from './measure.ts';

const READERS = 50;
const UPLOADS = 20;
const ASKED = 60;

const p95 = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length * 0.95)];

export async function benchLoad(): Promise<void> {
  const dusting = await Dusting.create();
  try {
    await dusting.server();
    dusting.worker(2);
    for (let i = 0; i < 5; i++) await dusting.send(filesOf(await smallShot(`LIST-${i}`)));
    await dusting.send(filesOf(await smallShot('LOAD-1', { width: 480, height: 270 })));
    await dusting.reach('LOAD-1', 6, 'done', 300);
    await until(
      'nothing is under way',
      async () => {
        const { body } = await dusting.get<ShotSummary[]>('/shots');
        return body.every(({ render, preflight }) => render?.examined === 'done' && preflight?.state === 'done');
      },
      300,
    );
    const routes = {
      list: '/shots',
      state: '/shots/LOAD-1',
      picture: '/renders/6/picture?passes=beauty',
      figures: '/renders/6/figures',
    };
    const measure = async () => {
      const times: Record<string, number[]> = {};
      for (let i = 0; i < ASKED; i++)
        for (const [name, path] of Object.entries(routes)) {
          const begun = performance.now();
          await (await fetch(`${dusting.address}/api${path}`)).arrayBuffer();
          (times[name] ??= []).push(performance.now() - begun);
        }
      return times;
    };
    await measure();
    const idle = await measure();
    await dusting.send(filesOf(await smallShot('FULL-1', { samples: 65_536, width: 480, height: 270 })));
    const uploads = await Promise.all(
      Array.from({ length: UPLOADS }, async (_, i) => {
        const { document, files } = await smallShot(`COME-${i}`);
        document.textures.wax = { file: 'textures/wax.png', colourSpace: 'srgb' };
        return filesOf({ document, files: new Map([...files, ['textures/wax.png', flatPng(2000)]]) });
      }),
    );
    const makers = new Worker(new URL('./load-makers.ts', import.meta.url), {
      workerData: { address: dusting.address, readers: READERS, uploads },
    });
    await new Promise((resolve) => makers.once('message', resolve));
    const begun = performance.now();
    let isOver = false;
    makers.on('message', () => {
      isOver = true;
      console.log(`  ${UPLOADS} uploads at once took ${((performance.now() - begun) / 1000).toFixed(1)} s`);
    });
    const loaded: Record<string, number[]> = {};
    do for (const [name, times] of Object.entries(await measure())) (loaded[name] ??= []).push(...times);
    while (!isOver && performance.now() - begun < 120_000);
    console.log(
      `${READERS} pages that follow, ${UPLOADS} uploads and a full queue: milliseconds of answers, idle → loaded`,
    );
    for (const [name, times] of Object.entries(loaded))
      console.log(
        `  ${name}: median ${median(idle[name]).toFixed(1)} → ${median(times).toFixed(1)} (${(median(times) / median(idle[name])).toFixed(1)} ×), p95 ${p95(idle[name]).toFixed(1)} → ${p95(times).toFixed(1)} (${(p95(times) / p95(idle[name])).toFixed(1)} ×)`,
      );
    await makers.terminate();
  } finally {
    await dusting.destroy();
  }
}
