/** What breaks comes back by itself: connections, workers, jobs; what is sent twice is done once; what a client does wrong is told as that. */
import { expect } from 'chai';
import { setTimeout as sleep } from 'node:timers/promises';
import { Dusting, until } from './harness.ts';
import { direct, expectSame } from './direct-render.ts';
import { filesOf, smallShot } from './small-shot.ts';

/** Every connection to the test's database but the one that asks. */
const OTHERS = 'pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()';

describe('recovery', function () {
  this.timeout(120_000);
  let dusting: Dusting;

  beforeEach(async () => {
    dusting = await Dusting.create();
    await dusting.server();
  });
  afterEach(() => dusting.destroy());

  it('keeps both processes and every bit when all connections drop, again and again', async () => {
    const shot = await smallShot('DROP-1', { samples: 64 });
    const worker = dusting.worker(2);
    await dusting.send(filesOf(shot));
    for (let i = 0; i < 8; i++) {
      await sleep(400);
      await dusting.query(`select pg_terminate_backend(pid) from ${OTHERS}`);
    }
    await dusting.reach('DROP-1', 1, 'done', 60);
    expect(worker.exitCode, 'the worker lives').to.equal(null);
    expect(await dusting.query('select * from taken_jobs where deaths > 0'), 'and is not taken for dead').to.deep.equal([]); // prettier-ignore
    expectSame(await direct(shot, 64), await dusting.bits(1), 'rendered in spite of it');
  });

  it('begins where connections drop faster than they are made', async () => {
    await dusting.send(filesOf(await smallShot('BEGIN-1')));
    await dusting.stop();
    const drops = dusting.query(`do $$ begin for i in 1..2500 loop
      perform pg_terminate_backend(pid) from ${OTHERS}; perform pg_stat_clear_snapshot(); perform pg_sleep(0.002);
    end loop; end $$`);
    const worker = dusting.worker(1);
    await dusting.server();
    await drops;
    await dusting.reach('BEGIN-1', 1, 'done', 60);
    expect(worker.exitCode, 'the worker lives').to.equal(null);
  });

  it('does what is in the hand of a worker that dies again at once, long before the job expires', async () => {
    await dusting.send(filesOf(await smallShot('DEAD-1', { samples: 16_384 })));
    type Taken = { job_id: string; worker: number };
    const taken = () => dusting.query<Taken>('select job_id, worker from taken_jobs where worker is not null');
    const first = dusting.worker(1);
    await until('one works', async () => (await taken()).length > 0);
    const [{ worker: number }] = await taken();
    const second = dusting.worker(1);
    await until('both work', async () => new Set((await taken()).map(({ worker }) => worker)).size === 2);
    // Stopped, it can neither finish a job nor take one: what is in its hand now is in its hand when it dies.
    let lost: Taken[] = [];
    await until('it is stopped with a job in hand', async () => {
      first.kill('SIGSTOP');
      await sleep(200);
      lost = (await taken()).filter(({ worker }) => worker === number);
      if (!lost.length) first.kill('SIGCONT');
      return lost.length;
    });
    await dusting.kill(first, 'SIGKILL');
    const died = Date.now();
    await until('nobody dead has a job', async () => (await taken()).every(({ worker }) => worker !== number));
    const seconds = (Date.now() - died) / 1000;
    console.log(`      (given back after ${seconds.toFixed(1)} s)`);
    expect(seconds).to.be.below(6);
    await until('its jobs are done by the other', async () => {
      const open = await dusting.query<{ id: string }>("select id from pgboss.job where state < 'completed'");
      return lost.every(({ job_id: id }) => !open.some((job) => job.id === id));
    });
    await dusting.kill(second);
  });

  it('gives a job up that hangs, or ends its process, five times: the render says so, and how to go on', async () => {
    await dusting.send(filesOf(await smallShot('HANG-1', { samples: 65_536, width: 32, height: 32 })));
    for (let i = 0; i < 14; i++) {
      // A second, and a late round of its one tile takes more: to this worker that hangs.
      const worker = dusting.worker(1, { DUSTING_JOB_SECONDS: '1' });
      const ended = new Promise((resolve) => worker.once('exit', resolve));
      // On a machine that is busy with other things it takes its time to begin.
      const isTaken = () => dusting.query("select 1 from pgboss.job where name = 'tiles' and state = 'active' and started_on > now() - interval '3 seconds'"); // prettier-ignore
      await Promise.race([
        ended,
        until('it has the job', async () => (await isTaken()).length > 0, 60).catch(() => {}),
      ]);
      await Promise.race([ended, sleep(6000)]);
      await dusting.kill(worker, 'SIGKILL');
      const { state, error } = await dusting.render('HANG-1', 1);
      if (state !== 'failed') continue;
      expect(error).to.match(/The process that worked on it ended 5 times.*Continue or restart the render/);
      return;
    }
    throw new Error('it was never given up');
  });

  it('never mixes another build into a film', async () => {
    await dusting.send(filesOf(await smallShot('BUILD-1')));
    await dusting.query("update renders set build = 'dusting-core-0'");
    dusting.worker();
    await dusting.reach('BUILD-1', 1, 'failed');
    expect((await dusting.render('BUILD-1', 1)).error).to.match(
      /another build of the renderer \(dusting-core-0; this is .*Render it again/,
    );
    expect(await dusting.query('select * from tiles')).to.deep.equal([]);
  });

  it('ends a trial with its side, and leaves nothing that waits for ever', async () => {
    await dusting.send(filesOf(await smallShot('SIDE-1')));
    const region = { x: 0, y: 0, width: 96, height: 64 };
    const values = { '/samples': 4096 };
    dusting.worker(2);
    const asked = { finding: null, remedy: null, region, sheet: 'preview', values };
    expect((await dusting.post('/shots/SIDE-1/trials', asked)).status).to.equal(201);
    await until('it renders', async () => (await dusting.shot('SIDE-1')).trials[0].state === 'rendering');
    const { afterRenderId } = (await dusting.shot('SIDE-1')).trials[0];
    expect((await dusting.post(`/renders/${afterRenderId}/stop`)).status).to.equal(204);
    const { trials, renders } = await dusting.shot('SIDE-1');
    expect(trials[0].state).to.equal('stopped');
    expect(renders.filter(({ purpose, state }) => purpose === 'trial' && state === 'active')).to.deep.equal([]);
  });

  it('does once what is sent several times under one key, and answers each time', async () => {
    await dusting.send(filesOf(await smallShot('ONCE-1')));
    const send = (key: string, code = 'ONCE-1') =>
      fetch(`${dusting.address}/api/shots/${code}/renders`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'Idempotency-Key': key },
        body: JSON.stringify({ sheet: 'preview', region: null }),
      });
    const first = await send('the-first-key');
    const again = await send('the-first-key');
    expect([first.status, again.status]).to.deep.equal([201, 201]);
    expect(await again.json()).to.deep.equal(await first.json());
    const many = await Promise.all(Array.from({ length: 12 }, () => send('the-second-key')));
    expect(many.filter(({ status }) => status === 201).length).to.be.at.least(1);
    expect(many.every(({ status }) => status === 201 || status === 409)).to.equal(true);
    expect((await dusting.shot('ONCE-1')).renders, 'the first, and one for each key').to.have.length(3);
    expect((await send('short')).status).to.equal(400);
    expect((await send('a-key-of-nothing', 'NOPE')).status).to.equal(404);
    const undo = () =>
      fetch(`${dusting.address}/api/renders/1/stop`, {
        method: 'POST',
        headers: { 'Idempotency-Key': 'stop-the-first' },
      });
    expect([(await undo()).status, (await undo()).status], 'without it the second would be refused').to.deep.equal([
      204, 204,
    ]);
  });

  it('tells as 4xx what a client does wrong', async () => {
    const { document, files } = await smallShot('WRONG-1');
    const shot = filesOf({ document, files });
    const four = await Promise.all(Array.from({ length: 4 }, () => dusting.send(shot)));
    expect(four.map(({ status }) => status).sort()).to.deep.equal([201, 409, 409, 409]);
    const beside = await dusting.send([['a', 'x'], ['a/b', 'y'], ...shot]); // prettier-ignore
    expect(beside.status, JSON.stringify(beside.body)).to.equal(400);
    const statuses: [string, Promise<{ status: number }>, number][] = [
      ['an integer past 32 bits', dusting.post('/shots/WRONG-1/undo', { base: 2 ** 40 }), 400],
      ['a version past 32 bits', dusting.post('/shots/WRONG-1/frame-times', { sheet: 'preview', versions: [2 ** 33] }), 400],
      ['a finding past 32 bits', dusting.post('/shots/WRONG-1/trials', { finding: 2 ** 31, remedy: 'a', region: null, sheet: 'preview', values: null }), 400],
      ['a base that is no number', dusting.send(shot, '/shots/WRONG-1/files?base=NaN'), 409],
      ['deep JSON', dusting.post('/shots/WRONG-1/dials', `{"a":${'['.repeat(5000)}${']'.repeat(5000)}}`), 400],
      ['NUL', dusting.post('/shots/WRONG-1/log-decisions', { key: 'a\0', harmless: true, why: '' }), 400],
      ['a name as a pointer', dusting.post('/shots/WRONG-1/dials', { base: 1, sheets: ['preview'], values: { '/constructor/name': 1 } }), 400],
      ['a prototype as a pointer', dusting.post('/shots/WRONG-1/dials', { base: 1, sheets: ['preview'], values: { '/__proto__/a': 1 } }), 400],
      ['an object of that name', dusting.get('/renders/1/mask?object=constructor'), 404],
      ['a kind of that name', dusting.post('/profiles/constructor', { text: '{}' }, 'PUT'), 404],
      ['a report of that name', dusting.get('/shots/WRONG-1/preflight.constructor'), 404],
      ['a query given twice', dusting.get('/renders/1/picture?passes=a&passes=b'), 400],
    ]; // prettier-ignore
    for (const [what, answer, status] of statuses) expect((await answer).status, what).to.equal(status);
    for (const [name, text] of BAD_MODELS) {
      const { status, body } = await dusting.send([[name, text]]);
      expect(status, `${name}: ${JSON.stringify(body)}`).to.equal(400);
      expect(body.error).to.match(/Nothing was kept|expected/);
    }
  });
});

const BAD_MODELS: [string, string][] = [
  ['array.gltf', '[]'],
  ['null.gltf', 'null'],
  ['meshes.gltf', '{"asset":{"version":"2.0"},"meshes":{"a":1},"scenes":3,"nodes":"x"}'],
  ['badArray.gltf', '{"asset":{"version":"2.0"},"nodes":[{"mesh":0}],"meshes":[{"primitives":[null]}],"scenes":[{"nodes":[0]}]}'],
  ['holes.gltf', '{"asset":{"version":"2.0"},"nodes":[null,[],{"children":[0,"1",-1,99]}],"scenes":[null]}'],
  ['accessors.gltf', '{"asset":{"version":"2.0"},"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],"nodes":[{"mesh":0}],"scenes":[{"nodes":[0]}],"accessors":[{"count":1e9,"componentType":5126,"type":"VEC3","bufferView":0}],"bufferViews":[{"buffer":0,"byteLength":1e15}],"buffers":[null]}'],
  ['faces.obj', 'v 0 0 0\nf 1 2 3 4 5 999999999\nf -7 -8 -9\nf a b c\n'],
  ['deep.usda', `#usda 1.0\n${'def Xform "a" {\n'.repeat(20_000)}`],
  ['broken.usda', '#usda 1.0\ndef Mesh "m" { point3f[] points = [(0,0,'],
]; // prettier-ignore
