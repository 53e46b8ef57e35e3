/** The examination of a render: family by family, cancelled, gone on with, and given up for one of them alone. */
import { FAMILIES } from '../../core/diagnose/registry.ts';
import { expect } from 'chai';
import type { RunningWork } from '../../core/contracts/events.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

describe('an examination', function () {
  this.timeout(180_000);
  let dusting: Dusting;
  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
  });
  after(() => dusting.destroy());

  const told = async (code: string) =>
    (await dusting.shot(code)).findings
      .filter(({ renderId }) => renderId !== null)
      .map(({ key, severity, samples }) => ({ key, severity, samples }));
  const renderOf = async (code: string) => (await dusting.shot(code)).renders[0];

  it('is cancelled between families, keeps what they found, and goes on to what an undisturbed one finds', async () => {
    await dusting.send(filesOf(await smallShot('EXAM-1')));
    let worker = dusting.worker(2);
    await until('the first is examined', async () => (await renderOf('EXAM-1')).examined === 'done', 120);
    await dusting.send(filesOf(await smallShot('EXAM-2')));
    await until('a family has looked', async () => (await renderOf('EXAM-2')).looked.length > 0);
    const { id, looked, toLook } = await renderOf('EXAM-2');
    expect([...looked, ...toLook]).to.have.members(FAMILIES.filter(({ render }) => render).map(({ title }) => title)); // prettier-ignore
    const work = (await (await fetch(`${dusting.address}/api/work`)).json()) as RunningWork[];
    expect(work.find((one) => one.code === 'EXAM-2')).to.deep.include({ kind: 'examination', id });
    expect((await dusting.post(`/renders/${id}/examination/stop`)).status).to.equal(204);
    const stopped = await renderOf('EXAM-2');
    expect([stopped.examined, await told('EXAM-2')]).to.deep.equal(['stopped', []]);
    // Whatever was in hand ends without a trace, and so does the process that had it.
    await dusting.kill(worker);
    worker = dusting.worker(2);
    await new Promise((resolve) => setTimeout(resolve, 1500));
    expect((await renderOf('EXAM-2')).looked).to.deep.equal(stopped.looked);
    expect((await dusting.post(`/renders/${id}/examination/stop`)).status, 'it is cancelled once').to.equal(409);

    expect((await dusting.post(`/renders/${id}/examination/continue`)).status).to.equal(204);
    const resumed = await renderOf('EXAM-2');
    expect(resumed.looked).to.include.members(stopped.looked);
    await until('it is examined', async () => (await renderOf('EXAM-2')).examined === 'done', 120);
    expect(await told('EXAM-2')).to.deep.equal(await told('EXAM-1'));
    const [{ n }] = await dusting.query<{ n: number }>('select count(*)::int n from examinations');
    expect(n, 'what families found is kept once').to.equal(0);
    expect((await dusting.post(`/renders/${id}/examination/continue`)).status).to.equal(409);
    await dusting.kill(worker);
  });

  it('says that one family was given up, and tells what the others found', async () => {
    await dusting.send(filesOf(await smallShot('EXAM-3')));
    const first = dusting.worker(2);
    await until('it waits for families', async () => (await renderOf('EXAM-3')).examined === 'waiting', 120);
    await dusting.kill(first);
    // As if four processes had ended with a family in hand already.
    const taken = await dusting.query<{ id: string }>(
      `select id from pgboss.job where name = 'examine' and state <> 'completed' and data->>'step' = 'noise'`,
    );
    expect(taken).to.have.length(1);
    await dusting.query(
      `insert into taken_jobs (job_id, queue, worker, deaths) values ('${taken[0].id}', 'examine', 1, 4)
       on conflict (job_id) do update set worker = 1, deaths = 4`,
    );
    const worker = dusting.worker(2);
    await until('it is examined', async () => (await renderOf('EXAM-3')).examined === 'done', 120);
    const found = (await dusting.shot('EXAM-3')).findings;
    expect(found.find(({ cause }) => cause === 'noise.failed')?.sentence).to.equal('Noise: could not be examined.'); // prettier-ignore
    expect(found.map(({ key }) => key)).to.include('limits.transmission');
    await dusting.kill(worker);
  });
});
