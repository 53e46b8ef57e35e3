/** Renders whose workers die: nothing is lost, and the bits are the same. */
import { expect } from 'chai';
import pg from 'pg';
import { direct, expectSame } from './direct-render.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

describe('renders whose workers are killed', function () {
  this.timeout(180_000);
  let dusting: Dusting;
  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
  });
  after(() => dusting.destroy());

  it('are shared by worker processes, and outlive one that is killed, with the same bits', async () => {
    const shot = await smallShot('REN-3', { samples: 96 });
    await dusting.send(filesOf(shot));
    const [first, second] = [dusting.worker(1), dusting.worker(1)];
    const [render] = (await dusting.shot('REN-3')).renders;
    await until('both work', async () => (await tileWorkers(dusting, render.id)).size === 2, 60);
    await dusting.kill(first, 'SIGKILL');
    await dusting.reach('REN-3', render.id, 'done', 120);
    // The survivor did the rest; what the dead one held came back to it at once.
    expect(second.exitCode).to.equal(null);
    expectSame(await direct(shot, 96), await dusting.bits(render.id), 'one worker killed');
    const workers = await tileWorkers(dusting, render.id);
    expect(workers.size, 'both took part').to.equal(2);
    await dusting.kill(second);
  });

  it('go on from their finished tiles when the only worker is killed, within 30 s', async () => {
    const shot = await smallShot('REN-4', { samples: 96 });
    await dusting.send(filesOf(shot));
    const lone = dusting.worker(2);
    const [render] = (await dusting.shot('REN-4')).renders;
    await until('it works', async () => (await dusting.render('REN-4', render.id)).progress > 0.05, 60);
    await dusting.kill(lone, 'SIGKILL');
    const before = await dusting.render('REN-4', render.id);
    const next = dusting.worker(2);
    await until('it goes on', async () => (await dusting.render('REN-4', render.id)).revision > before.revision, 30);
    await dusting.reach('REN-4', render.id, 'done', 120);
    expectSame(await direct(shot, 96), await dusting.bits(render.id), 'resumed');
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
});

async function tileWorkers(dusting: Dusting, renderId: number): Promise<Set<string>> {
  const client = new pg.Client({ connectionString: dusting.databaseUrl });
  await client.connect();
  const { rows } = await client.query('select distinct worker from tiles where render_id = $1', [renderId]);
  await client.end();
  return new Set(rows.map((row) => row.worker as string));
}
