/** The queue: with the transaction or not at all, in order, and again when nobody said it was done. */
import { expect } from 'chai';
import { setTimeout as sleep } from 'node:timers/promises';
import { connect } from '../../server/db/database.ts';
import { Queue } from '../../server/queue.ts';
import { Dusting } from './harness.ts';

describe('queue', function () {
  this.timeout(60_000);
  let dusting: Dusting;
  let queue: Queue;
  let connection: ReturnType<typeof connect>;

  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
    connection = connect(dusting.databaseUrl);
    queue = await Queue.begin(connection.pool, connection.db);
  });
  after(async () => {
    await queue.stop();
    await connection.pool.end();
    await dusting.destroy();
  });

  const tiles = (batch: string) => ({ shotId: 1, renderId: 1, epoch: 0, batch, tiles: [1], groups: 1 });
  const next = async () => {
    const job = await queue.take('tiles', async () => {});
    if (job) await queue.done('tiles', job.id);
    return job?.data.batch ?? null;
  };

  it('holds no job of a transaction that was taken back', async () => {
    const failed = connection.db
      .transaction(async (tx) => {
        await queue.send(tx, 'tiles', [tiles('lost')]);
        throw new Error('taken back');
      })
      .catch((error: Error) => error.message);
    expect(await failed).to.equal('taken back');
    expect(await next()).to.equal(null);
  });

  it('gives jobs in the order they were sent in, those of higher priority before', async () => {
    const { db } = connection;
    await db.transaction(async (tx) => {
      await queue.send(
        tx,
        'tiles',
        Array.from({ length: 20 }, (_, i) => tiles(`second round ${i}`)),
        -1,
      );
      await queue.send(
        tx,
        'tiles',
        Array.from({ length: 20 }, (_, i) => tiles(`first round ${i}`)),
        0,
      );
      await queue.send(tx, 'tiles', [tiles('trial')], 100);
    });
    const order = [];
    for (let batch = await next(); batch !== null; batch = await next()) order.push(batch);
    expect(order[0]).to.equal('trial');
    expect(order.slice(1, 21)).to.deep.equal(Array.from({ length: 20 }, (_, i) => `first round ${i}`));
    expect(order.slice(21)).to.deep.equal(Array.from({ length: 20 }, (_, i) => `second round ${i}`));
  });

  it('gives each job to one taker only', async () => {
    await queue.send(
      connection.db,
      'tiles',
      Array.from({ length: 12 }, (_, i) => tiles(`b${i}`)),
    );
    const taken = await Promise.all(Array.from({ length: 20 }, next));
    const real = taken.filter((batch) => batch !== null);
    expect(new Set(real).size).to.equal(real.length);
    let rest = 0;
    while ((await next()) !== null) rest++;
    expect(real.length + rest).to.equal(12);
  });

  it('gives a job again when it failed, and when its taker never came back', async () => {
    await queue.send(connection.db, 'tiles', [tiles('hard')]);
    const first = await queue.take('tiles', async () => {});
    await queue.retry(connection.db, 'tiles', first!.id, 0);
    const second = await queue.take('tiles', async () => {});
    expect(second?.data.batch).to.equal('hard');
    // The second taker dies: after 12 s, looked at every 3 s, it is there again.
    const started = Date.now();
    let third = null;
    while (third === null && Date.now() - started < 30_000) {
      await sleep(300);
      third = await queue.take('tiles', async () => {});
    }
    expect(third?.data.batch).to.equal('hard');
    expect(Date.now() - started).to.be.within(8_000, 25_000);
    await queue.done('tiles', third!.id);
  });
});
