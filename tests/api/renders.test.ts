/** Renders over processes: the same bits however they were made. */
import { expect } from 'chai';
import { setTimeout as sleep } from 'node:timers/promises';
import pg from 'pg';
import type { ShotState } from '../../core/contracts/events.ts';
import { direct, expectSame } from './direct-render.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

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
    const shot = await smallShot('REN-2', { samples: 96 });
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

    expect((await dusting.post(`/renders/${render.id}/continue`, { samples: 96 })).status).to.equal(204);
    await dusting.reach('REN-2', render.id, 'done');
    expectSame(await direct(shot, 96), await dusting.bits(render.id), 'stopped and continued');
    expect((await dusting.post(`/renders/${render.id}/continue`, { samples: 112 })).status).to.equal(204);
    await dusting.reach('REN-2', render.id, 'done');
    expectSame(await direct(shot, 112), await dusting.bits(render.id), 'continued to more');
    const fewer = await dusting.post(`/renders/${render.id}/continue`, { samples: 32 });
    expect(fewer.status).to.equal(409);
    await dusting.kill(worker);
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
    expect(second.state.head.number).to.equal(2);
    const { body: document } = await dusting.get(`/versions/${second.state.head.id}/document`);
    expect(document.sheets.final.samples).to.equal(32);
    stop.abort();
  });

  it('are deleted with their shot while a tile of them is being kept, and pages are told at once', async () => {
    expect((await dusting.send(filesOf(await smallShot('REN-3')))).status).to.equal(201);
    const [{ id }] = (await dusting.shot('REN-3')).renders;
    const page = await fetch(`${dusting.address}/api/shots/REN-3/events`);
    const heard = page.text();
    const keeper = new pg.Client({ connectionString: dusting.databaseUrl });
    await keeper.connect();
    await keeper.query('begin');
    await keeper.query('select id from renders where id = $1 for update', [id]);
    await keeper.query(`insert into tiles (render_id, tile, groups, film, rays, ms, worker) values ($1, 0, 1, 'f', 1, 1, 'w')`, [id]); // prettier-ignore
    const deleted = dusting.post('/shots/REN-3?confirm=REN-3', '', 'DELETE');
    await sleep(500);
    // Whoever keeps a tile tells the shot's pages last, and waits for nobody who waits for it.
    await keeper.query('update shots set revision = revision + 1 where code = $1', ['REN-3']);
    await keeper.query('commit');
    await keeper.end();
    expect((await deleted).status).to.equal(204);
    expect(await heard).to.match(/event: gone\ndata: "There is no shot \\"REN-3\\"\."/);
  });
});
