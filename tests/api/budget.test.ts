/** Frames measured over HTTP, held against whole renders in rays; the farm of a shot. */
import { expect } from 'chai';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

const CODE = 'BUDGET-1';

describe('budget', function () {
  this.timeout(120_000);
  let dusting: Dusting;
  const shot = () => dusting.shot(CODE);
  const times = async () => (await shot()).frameTimes;

  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
    await dusting.send(filesOf(await smallShot(CODE, { samples: 64 })));
    dusting.worker(2);
    await until('the base render is done', async () => (await shot()).renders[0].state === 'done', 90);
  });
  after(() => dusting.destroy());

  it('measures a frame of two versions, the dearer one dearer by what it traces', async () => {
    const { head } = await shot();
    await dusting.post(`/shots/${CODE}/dials`, { base: head.id, sheets: ['preview'], values: { '/samples': 128 } });
    const asked = await dusting.post(`/shots/${CODE}/frame-times`, { sheet: 'preview', versions: [1, 2] });
    expect(asked.status).to.be.below(300);
    await until('both are measured', async () => (await times()).every((t) => t.state === 'done'), 60);
    const [first, second] = await times();
    expect([first.version, second.version]).to.deep.equal([1, 2]);
    const { rays } = (await shot()).renders[0];
    expect(Math.abs(first.rays / rays - 1)).to.be.below(3 * first.share);
    expect(second.rays / first.rays).to.be.within(1.9, 2.1);
    for (const { threadSeconds, onceSeconds } of [first, second]) {
      expect(threadSeconds).to.be.above(0);
      expect(onceSeconds).to.be.above(0);
    }
  });

  it('remembers the farm, and refuses one that is none', async () => {
    expect((await shot()).farm).to.include({ frames: 100, price: null });
    const farm = { frames: 240, machines: 12, threads: 32, speed: 1.5, price: 0.8 };
    expect((await dusting.post(`/shots/${CODE}/farm`, farm, 'PUT')).status).to.be.below(300);
    expect((await shot()).farm).to.deep.equal(farm);
    const refused = await dusting.post(`/shots/${CODE}/farm`, { ...farm, machines: 0 }, 'PUT');
    expect(refused.status).to.equal(400);
    expect(refused.body.error).to.match(/machines/);
  });

  it('says which version is not there', async () => {
    const refused = await dusting.post(`/shots/${CODE}/frame-times`, { sheet: 'final', versions: [9] });
    expect(refused.status).to.equal(404);
    expect(refused.body.error).to.match(/version 9/);
  });
});
