/** Renders over processes: the same bits however they were made, and nothing lost when something dies. */
import { expect } from 'chai';
import { setTimeout as sleep } from 'node:timers/promises';
import pg from 'pg';
import type { ShotState } from '../../core/contracts/events.ts';
import { createFilm } from '../../core/render/film.ts';
import { compileScene } from '../../core/render/compile.ts';
import { pictureOf } from '../../core/render/film-picture.ts';
import { loadAssets } from '../../core/render/load-assets.ts';
import { renderGroups } from '../../core/render/render-tile.ts';
import { settingsOf } from '../../core/render/scene.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot, type SmallShot } from './small-shot.ts';

/** What one thread gives in one go, as the reference. */
async function direct({ document, files }: SmallShot, samples: number): Promise<Map<string, Buffer>> {
  const sheet = document.sheets.preview;
  const scene = compileScene(document, await loadAssets(document, async (p) => files.get(p) ?? null, 'x'), sheet);
  const film = createFilm({ x: 0, y: 0, width: sheet.width, height: sheet.height });
  renderGroups(scene, settingsOf(sheet), film, samples / 4);
  const { channels } = pictureOf([film], film.region, ['beauty', 'cost', 'cut.any', 'error.beauty']);
  return new Map([...channels].map(([name, plane]) => [name, Buffer.from(plane.slice().buffer)]));
}

function expectSame(a: Map<string, Buffer>, b: Map<string, Buffer>, what: string) {
  for (const [name, bytes] of a) expect(bytes.equals(b.get(name)!), `${what}: ${name}`).to.equal(true);
}

describe('renders', function () {
  this.timeout(180_000);
  let dusting: Dusting;
  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
  });
  after(() => dusting.destroy());

  it('begin with the shot, tell how far they are, and hold the bits of one thread in one go', async () => {
    const shot = await smallShot('REN-1');
    expect((await dusting.send(filesOf(shot))).status).to.equal(201);
    const worker = dusting.worker(2);
    const [render] = (await dusting.shot('REN-1')).renders;
    expect(render).to.include({ purpose: 'base', sheet: 'preview', samples: 16, width: 96, height: 64, version: 1 });
    await dusting.reach('REN-1', render.id, 'done');
    const done = await dusting.render('REN-1', render.id);
    expect(done.progress).to.equal(1);
    expect(done.samplesDone).to.equal(16);
    expect(done.rays).to.be.above(96 * 64 * 16);
    expectSame(await direct(shot, 16), await dusting.bits(render.id), 'two threads');
    await dusting.kill(worker);
  });

  it('of a region equal the crop of the full frame', async () => {
    const worker = dusting.worker(2);
    const region = { x: 29, y: 11, width: 41, height: 37 };
    const made = await dusting.post<{ id: number }>('/shots/REN-1/renders', { sheet: 'preview', region });
    expect(made.status).to.equal(201);
    await dusting.reach('REN-1', made.body.id, 'done');
    const part = await dusting.bits(made.body.id);
    const whole = await dusting.bits(1);
    for (const [name, bytes] of part)
      for (let y = 0; y < region.height; y++) {
        const row = bytes.subarray(y * region.width * 4, (y + 1) * region.width * 4);
        const from = ((region.y + y) * 96 + region.x) * 4;
        expect(row.equals(whole.get(name)!.subarray(from, from + region.width * 4)), `${name} row ${y}`).to.equal(true);
      }
    expect((await dusting.render('REN-1', made.body.id)).examined, 'parts are not examined').to.equal('no');
    await dusting.kill(worker);
  });

  it('stop, keep what is finished, and go on to more samples with the bits of one long render', async () => {
    const shot = await smallShot('REN-2', { samples: 256 });
    await dusting.send(filesOf(shot));
    const worker = dusting.worker(2);
    const [render] = (await dusting.shot('REN-2')).renders;
    await until('some tiles are done', async () => (await dusting.render('REN-2', render.id)).progress > 0.02);
    expect((await dusting.post(`/renders/${render.id}/stop`)).status).to.equal(204);
    await sleep(800);
    const stopped = await dusting.render('REN-2', render.id);
    expect(stopped.state).to.equal('stopped');
    await sleep(700);
    expect((await dusting.render('REN-2', render.id)).revision, 'nothing goes on').to.equal(stopped.revision);
    const again = await dusting.post(`/renders/${render.id}/stop`);
    expect(again.status).to.equal(409);
    expect(again.body.error).to.match(/is not running: it is stopped/);

    expect((await dusting.post(`/renders/${render.id}/continue`, { samples: 256 })).status).to.equal(204);
    await dusting.reach('REN-2', render.id, 'done');
    expectSame(await direct(shot, 256), await dusting.bits(render.id), 'stopped and continued');
    expect((await dusting.post(`/renders/${render.id}/continue`, { samples: 320 })).status).to.equal(204);
    await dusting.reach('REN-2', render.id, 'done');
    expectSame(await direct(shot, 320), await dusting.bits(render.id), 'continued to more');
    const fewer = await dusting.post(`/renders/${render.id}/continue`, { samples: 64 });
    expect(fewer.status).to.equal(409);
    await dusting.kill(worker);
  });

  it('are shared by worker processes, and outlive one that is killed: same bits, within 30 s', async () => {
    const shot = await smallShot('REN-3', { samples: 512 });
    await dusting.send(filesOf(shot));
    const [first, second] = [dusting.worker(1), dusting.worker(1)];
    const [render] = (await dusting.shot('REN-3')).renders;
    await until('both work', async () => (await tileWorkers(dusting, render.id)).size === 2, 60);
    await dusting.kill(first, 'SIGKILL');
    const killed = Date.now();
    await dusting.reach('REN-3', render.id, 'done', 120);
    // The survivor did the rest; what the dead one held came back after its time was up.
    expect(second.exitCode).to.equal(null);
    expectSame(await direct(shot, 512), await dusting.bits(render.id), 'one worker killed');
    console.log(`      (done ${((Date.now() - killed) / 1000).toFixed(1)} s after the kill)`);
    const workers = await tileWorkers(dusting, render.id);
    expect(workers.size, 'both took part').to.equal(2);
    await dusting.kill(second);
  });

  it('go on from their finished tiles when the only worker is killed, within 30 s', async () => {
    const shot = await smallShot('REN-4', { samples: 512 });
    await dusting.send(filesOf(shot));
    const lone = dusting.worker(2);
    const [render] = (await dusting.shot('REN-4')).renders;
    await until('it works', async () => (await dusting.render('REN-4', render.id)).progress > 0.05, 60);
    await dusting.kill(lone, 'SIGKILL');
    const before = await dusting.render('REN-4', render.id);
    const next = dusting.worker(2);
    await until('it goes on', async () => (await dusting.render('REN-4', render.id)).revision > before.revision, 30);
    await dusting.reach('REN-4', render.id, 'done', 120);
    expectSame(await direct(shot, 512), await dusting.bits(render.id), 'resumed');
    await dusting.kill(next);
  });

  it('end once and count each tile once when a job is done twice', async () => {
    const client = new pg.Client({ connectionString: dusting.databaseUrl });
    await client.connect();
    const { rows } = await client.query(
      'select render_id, tile, groups, count(*)::int as n from tiles group by 1, 2, 3 having count(*) > 1',
    );
    expect(rows).to.deep.equal([]);
    const sums = await client.query(
      `select r.id, r.done_groups as told, sum(t.most)::int as found from renders r
       join (select render_id, tile, max(groups) as most from tiles group by 1, 2) t on t.render_id = r.id group by r.id`,
    );
    for (const { id, told, found } of sums.rows) expect(told, `render ${id}`).to.equal(found);
    await client.end();
  });

  it('tell pages by events: the whole state, with a number to go on from', async () => {
    const stop = new AbortController();
    const response = await fetch(`${dusting.address}/api/shots/REN-1/events`, { signal: stop.signal });
    expect(response.headers.get('content-type')).to.equal('text/event-stream');
    const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
    let text = '';
    const next = async (): Promise<{ id: string; state: ShotState }> => {
      for (;;) {
        const event = /id: (\d+)\nevent: state\ndata: (.*)\n\n/.exec(text);
        if (event) {
          text = text.slice(event.index + event[0].length);
          return { id: event[1], state: JSON.parse(event[2]) as ShotState };
        }
        text += (await reader.read()).value ?? '';
      }
    };
    const first = await next();
    expect(first.state.code).to.equal('REN-1');
    expect(String(first.state.revision)).to.equal(first.id);
    await dusting.post('/shots/REN-1/dials', {
      base: first.state.head.id,
      sheets: ['final'],
      values: { '/samples': 32 },
    });
    const second = await next();
    expect(Number(second.id)).to.be.above(Number(first.id));
    expect(second.state.document.sheets.final.samples).to.equal(32);
    stop.abort();
  });
});

async function tileWorkers(dusting: Dusting, renderId: number): Promise<Set<string>> {
  const client = new pg.Client({ connectionString: dusting.databaseUrl });
  await client.connect();
  const { rows } = await client.query('select distinct worker from tiles where render_id = $1', [renderId]);
  await client.end();
  return new Set(rows.map((row) => row.worker as string));
}
