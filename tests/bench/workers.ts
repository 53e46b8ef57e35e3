/** Two worker processes of one thread each against one, over the real queue and database. */
import { Dusting, until } from '../api/harness.ts';
import { filesOf, smallShot } from '../api/small-shot.ts';

export async function benchWorkers(): Promise<void> {
  const seconds = async (workers: number, code: string) => {
    for (let i = 0; i < workers; i++) dusting.worker(1);
    await dusting.send(filesOf(await smallShot(`${code}-WARM`, { samples: 16 })));
    await dusting.reach(`${code}-WARM`, (await dusting.shot(`${code}-WARM`)).renders[0].id, 'done');
    const started = Date.now();
    await dusting.send(filesOf(await smallShot(code, { samples: 512 })));
    const [render] = (await dusting.shot(code)).renders;
    await until('done', async () => (await dusting.render(code, render.id)).state === 'done', 300);
    return (Date.now() - started) / 1000;
  };
  const dusting = await Dusting.create();
  try {
    await dusting.server();
    const one = await seconds(1, 'ONE');
    const two = await seconds(1, 'TWO');
    console.log(`a second worker process: ${one.toFixed(1)} s → ${two.toFixed(1)} s, ${(one / two).toFixed(2)} ×`);
  } finally {
    await dusting.destroy();
  }
}
