/** Controls of lights, materials and objects over HTTP: set, tried, kept, refused; passes that a sheet asks for; warnings. */
import { expect } from 'chai';
import { eq } from 'drizzle-orm';
import { canonicalText } from '../../core/document/canonical.ts';
import { defaultLight } from '../../core/document/defaults.ts';
import { connect } from '../../server/db/database.ts';
import { versions } from '../../server/db/schema.ts';
import { completeStored } from '../../server/versions/complete-stored.ts';
import { read } from '../unit/effects.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

const CODE = 'SCENE-1';

describe('controls of the scene', function () {
  this.timeout(180_000);
  let dusting: Dusting;
  const shot = () => dusting.shot(CODE);
  const set = async (values: object, sheets = ['preview', 'final']) =>
    dusting.post(`/shots/${CODE}/dials`, { base: (await shot()).head.id, sheets, values });

  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
    const small = await smallShot(CODE, { samples: 32 });
    small.document.lights.window.group = 'window';
    small.document.lights.flat = { ...defaultLight('rectangle'), width: 0 };
    small.document.sheets.preview.passes = { occlusion: true, shadows: true, lines: true, groups: true };
    await dusting.send(filesOf(small));
    dusting.worker(2);
    await until('the base render is examined', async () => (await shot()).renders[0].examined === 'done', 90);
  });
  after(() => dusting.destroy());

  it('gives the passes that the sheet asks for, and refuses others with the list', async () => {
    const { id } = (await shot()).renders[0];
    const bits = await dusting.bits(
      id,
      'group.window,group.window.diffuse.direct,shadow.window,occlusion,brightest.path',
    );
    expect(bits.size).to.equal(9);
    const refused = await dusting.get(`/renders/${id}/picture?passes=group.none`);
    expect(refused.status).to.equal(400);
    expect(refused.body.error).to.match(/group\.window/);
  });

  it('says what is unusual on the render', async () => {
    expect((await shot()).renders[0].warnings.join()).to.match(/Light "flat" has no area/);
  });

  it('sets a light and a material in one version, told in words, and undo takes it back', async () => {
    const { status } = await set({ '/lights/window/intensity': 2, '/materials/wall/baseColour': [0.2, 0.3, 0.4] });
    expect(status).to.be.below(300);
    const after = await shot();
    expect(after.document.lights.window.intensity).to.equal(2);
    expect(after.document.materials.wall.baseColour).to.deep.equal([0.2, 0.3, 0.4]);
    expect(after.head.reason).to.match(
      /^window, Intensity: [\d.]+ W\/\(sr m²\) → 2 W\/\(sr m²\); plaster, Base colour: .* → 0.2, 0.3, 0.4$/,
    );
    await dusting.post(`/shots/${CODE}/undo`, { base: after.head.id });
    expect((await shot()).document.lights.window.intensity).to.equal(1);
  });

  it('sets what may be absent to nothing and back', async () => {
    await set({ '/rayDistance': 50, '/clamps/indirect': 4 }, ['preview']);
    expect((await shot()).document.sheets.preview.rayDistance).to.equal(50);
    await set({ '/rayDistance': null }, ['preview']);
    const { preview, final } = (await shot()).document.sheets;
    expect([preview.rayDistance, preview.clamps.indirect, final.clamps.indirect]).to.deep.equal([null, 4, null]);
  });

  it('tries a light: half its intensity is a stop down where it alone lights, predicted and measured', async () => {
    await set({ '/environment/intensity': 0 });
    const region = { x: 2, y: 2, width: 24, height: 20 };
    const made = await dusting.post(`/shots/${CODE}/trials`, {
      finding: null,
      remedy: null,
      region,
      sheet: 'preview',
      values: { '/lights/window/intensity': 0.5 },
    });
    expect(made.status).to.equal(201);
    const trial = async () => (await shot()).trials.find((t) => t.number === made.body.number)!;
    await until('it is measured', async () => (await trial()).state === 'done');
    const { predicted, measured, id } = await trial();
    expect(read(measured).stops).to.be.closeTo(-1, 1e-3);
    expect(read(predicted).stops).to.be.closeTo(-1, 0.05);
    await dusting.post(`/trials/${id}/keep`, { both: true });
    expect((await shot()).document.lights.window.intensity).to.equal(0.5);
  });

  it('tries a light that is not there yet, keeps it in the scene and its dial in both sheets, and undo takes both back', async () => {
    const before = await shot();
    const fill = {
      ...defaultLight('point'),
      transform: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 1, 2, 1],
      intensity: 5,
    };
    const made = await dusting.post(`/shots/${CODE}/trials`, {
      finding: null,
      remedy: null,
      region: { x: 2, y: 2, width: 24, height: 20 },
      sheet: 'preview',
      values: { '/lights/fill': fill, '/clamps/bounced': 3 },
    });
    expect(made.status).to.equal(201);
    const trial = async () => (await shot()).trials.find((t) => t.number === made.body.number)!;
    await until('it is measured', async () => (await trial()).state === 'done');
    const { measured, title, id } = await trial();
    expect(title).to.equal('fill: new light; Bounced clamp: none → 3');
    expect(read(measured).stops).to.be.greaterThan(0.3);
    expect((await dusting.post(`/trials/${id}/keep`, { both: true })).status).to.equal(204);
    const kept = await shot();
    expect(kept.document.lights.fill).to.deep.equal(fill);
    expect([kept.document.sheets.preview.clamps.bounced, kept.document.sheets.final.clamps.bounced]).to.deep.equal([3, 3]); // prettier-ignore
    await dusting.post(`/shots/${CODE}/undo`, { base: kept.head.id });
    expect((await shot()).document).to.deep.equal(before.document);
    const wrong = await dusting.post(`/shots/${CODE}/trials`, { finding: null, remedy: null, region: null, sheet: 'preview', values: { '/lights/odd': { kind: 'lamp' } } }); // prettier-ignore
    expect(wrong.status).to.equal(400);
  });

  it('writes out what documents of before a dial was added lack, at the next start', async () => {
    const whole = (await shot()).document;
    const lacking = structuredClone(whole) as unknown as { sheets: { preview: Record<string, unknown> } };
    delete lacking.sheets.preview.roughnessFloor;
    const { db, pool } = connect(dusting.databaseUrl);
    const head = (await shot()).head.id;
    await db
      .update(versions)
      .set({ document: canonicalText(lacking) })
      .where(eq(versions.id, head));
    expect(await completeStored(db)).to.equal(1);
    expect(await completeStored(db)).to.equal(0);
    await pool.end();
    expect((await shot()).document).to.deep.equal(whole);
  });

  it('refuses a frame that no machine could put together, before any work', async () => {
    await set({ '/width': 16384, '/height': 8192, '/samples': 4 }, ['final']);
    const { status, body } = await dusting.post(`/shots/${CODE}/renders`, { sheet: 'final', region: null });
    expect(status).to.equal(409);
    expect(body.error).to.match(/16384 × 8192 pixels need about \d.* of memory and this machine has/);
  });

  const bad: [string, object, RegExp][] = [
    [
      'a value out of range',
      { '/lights/window/intensity': -1 },
      /\/lights\/window\/intensity is -1, expected at least 0/,
    ],
    ['a value of another kind', { '/materials/wall/roughness': 'rough' }, /\/materials\/wall\/roughness is "rough"/],
    ['a place that is not there', { '/lights/moon/intensity': 1 }, /\/lights\/moon\/intensity is missing/],
    ['an id that stands for nothing', { '/materials/wall/baseColourMap': 'gone' }, /id of a map/],
    ['10⁹ samples', { '/samples': 1e9 }, /\/sheets\/preview\/samples is 1000000000, expected at most 65536/],
  ];
  for (const [what, values, message] of bad)
    it(`refuses ${what}, and nothing changes`, async () => {
      const before = (await shot()).head.id;
      const { status, body } = await set(values);
      expect(status).to.equal(400);
      expect(body.error).to.match(message);
      expect((await shot()).head.id).to.equal(before);
    });
});
