/** Who goes first: findings while a render runs, and the shot that somebody looks at before all others. */
import { expect } from 'chai';
import type { RunningWork } from '../../core/contracts/events.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

describe('what somebody waits for', function () {
  this.timeout(180_000);
  let dusting: Dusting;
  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
  });
  after(() => dusting.destroy());

  it('is told while the render runs, at the samples it has, and told anew when all of it was examined', async () => {
    await dusting.send(filesOf(await smallShot('LOOK-1', { samples: 4096 })));
    const worker = dusting.worker(2);
    const ofRender = async () => (await dusting.shot('LOOK-1')).findings.filter(({ renderId }) => renderId !== null);
    await until('a first look', async () => (await ofRender()).length > 0);
    const [render] = (await dusting.shot('LOOK-1')).renders;
    expect(render).to.include({ state: 'active', examined: 'no' });
    const early = await ofRender();
    // Three panes are six faces, and two are let through: no noise-free picture is needed to see that.
    expect(early.map(({ key }) => key)).to.include('limits.transmission');
    expect(early.map(({ family }) => family)).not.to.include('noise');
    expect(new Set(early.map(({ samples }) => samples))).to.deep.equal(new Set([16]));
    const trial = await dusting.post<{ id: number }>('/shots/LOOK-1/trials', { finding: early[0].id, remedy: 'enough', region: null, sheet: 'preview', values: null });
    expect(trial.status, 'a remedy of a first look can be tried').to.equal(201);
    const [{ id }] = (await dusting.shot('LOOK-1')).trials;
    expect((await dusting.post(`/trials/${id}/stop`)).status).to.equal(204);
    expect((await dusting.post(`/renders/${render.id}/stop`)).status).to.equal(204);
    await dusting.kill(worker);
  }); // prettier-ignore

  it('holds findings of the whole alone once there are some', async () => {
    await dusting.send(filesOf(await smallShot('LOOK-2', { samples: 128 })));
    const worker = dusting.worker(2);
    const [render] = (await dusting.shot('LOOK-2')).renders;
    const ofRender = async () => (await dusting.shot('LOOK-2')).findings.filter(({ renderId }) => renderId === render.id);
    await until('a first look', async () => (await ofRender()).length > 0);
    const [early] = await ofRender();
    await dusting.post(`/findings/${early.id}/aside`, { reason: 'the panes go' });
    await until('it is examined', async () => (await dusting.render('LOOK-2', render.id)).examined === 'done', 120);
    const told = await ofRender();
    // What was dismissed at the first look stays so.
    expect(told.find(({ key }) => key === early.key)).to.include({ aside: 'the panes go' });
    expect(new Set(told.map(({ samples }) => samples))).to.deep.equal(new Set([128]));
    const rows = await dusting.query<{ samples: number }>(`select distinct samples from findings where render_id = ${render.id} order by samples`);
    expect(rows.map(({ samples }) => samples)).to.deep.equal([16, 128]);
    await dusting.kill(worker);
  }); // prettier-ignore

  it('goes before what was queued earlier, once its page is open', async () => {
    for (const code of ['LOOK-3', 'LOOK-4', 'LOOK-5']) await dusting.send(filesOf(await smallShot(code, { samples: 64 })));
    const firstOf = async () => {
      const [{ code }] = await dusting.query<{ code: string }>(
        `select code from shots join pgboss.job on (data->>'shotId')::int = shots.id where pgboss.job.name = 'tiles' and state < 'active' order by priority desc, created_on limit 1`,
      );
      return code;
    };
    expect(await firstOf()).to.equal('LOOK-3');
    for (const code of ['LOOK-5', 'LOOK-4', 'LOOK-5']) {
      const page = dusting.listen(`/shots/${code}/events`);
      await until(`${code} goes first`, async () => (await firstOf()) === code, 10);
      page.close();
    }
    // What runs is listed in that order, and another shot can be put first without opening it.
    const listed = async (way: 'get' | 'put' = 'get', path = '/work') => {
      const answer = await fetch(`${dusting.address}/api${path}`, { method: way.toUpperCase() });
      return ((await answer.json()) as RunningWork[]).filter(({ code }) => /LOOK-[345]/.test(code));
    };
    const [first, ...others] = await listed();
    expect(first).to.include({ code: 'LOOK-5', kind: 'render', title: 'render of version 1, preview', progress: 0, isFirst: true });
    expect(others.map(({ code, isFirst }) => [code, isFirst])).to.deep.equal([['LOOK-3', false], ['LOOK-4', false]]);
    expect((await listed('put', '/shots/LOOK-4/first')).map(({ code }) => code)).to.deep.equal(['LOOK-4', 'LOOK-3', 'LOOK-5']);
    expect(await firstOf()).to.equal('LOOK-4');
    await listed('put', '/shots/LOOK-5/first');
    const priorities = await dusting.query<{ code: string; most: number }>(
      `select code, max(priority) most from shots join pgboss.job on (data->>'shotId')::int = shots.id where pgboss.job.name = 'tiles' and state < 'active' group by code order by code`,
    );
    const [third, fourth] = ['LOOK-3', 'LOOK-4'].map((code) => priorities.find((row) => row.code === code)!.most);
    expect(fourth, 'what was left is where it was').to.equal(third);
  }); // prettier-ignore
});
