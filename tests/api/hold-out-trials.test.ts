/**
 * A trial whose change is for some objects alone: two renders put together, shown and measured as one, kept as two shots.
 * Source of what they must be: Porter & Duff 1984, (A out B) plus (B out A) is the whole.
 */
import { expect } from 'chai';
import type { Picture } from '../../core/data/picture.ts';
import { defaultFog } from '../../core/document/defaults.ts';
import { holdOutPair } from '../../core/document/hold-out.ts';
import { withValues, type ControlValues } from '../../core/document/set-values.ts';
import { unpackPicture } from '../../core/picture/planes.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { createFilm } from '../../core/render/film/film.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { addFilm } from '../../core/render/film/put-together.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { read } from '../unit/effects.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot, type SmallShot } from './small-shot.ts';

const CODE = 'APART-1';
const PANES = ['pane0', 'pane1', 'pane2'];
const CLAMP = { '/clamps/indirect': 0.05 };

describe('a trial on some objects alone', function () {
  this.timeout(120_000);
  let dusting: Dusting;
  let small: SmallShot;
  const asked = (more: object = {}) => ({ finding: null, remedy: null, region: null, sheet: 'preview', values: CLAMP, objects: PANES, ...more }); // prettier-ignore
  const trialOf = async (number: number) => (await dusting.shot(CODE)).trials.find((trial) => trial.number === number)!;

  async function measured(request: object) {
    const made = await dusting.post<{ number: number }>(`/shots/${CODE}/trials`, request);
    expect(made.status, JSON.stringify(made.body)).to.equal(201);
    await until('it is measured', async () => (await trialOf(made.body.number)).state === 'done', 90);
    return trialOf(made.body.number);
  }

  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
    small = await smallShot(CODE);
    await dusting.send(filesOf(small));
    dusting.worker(2);
  });
  after(() => dusting.destroy());

  it('is predicted and measured as one picture, and its render is the sum of the two, of as many rays', async () => {
    const trial = await measured(asked());
    expect(trial.title).to.match(/^Indirect.* alone$/);
    const { renders } = await dusting.shot(CODE);
    const after = renders.find(({ id }) => id === trial.afterRenderId)!;
    expect(renders.filter(({ purpose }) => purpose === 'trial')).to.have.length(2);
    expect(after).to.include({ state: 'done', progress: 1, samples: 16, samplesDone: 16 });

    const { rest, alone } = holdOutPair(small.document, PANES);
    const seed = (await dusting.query<{ seed: number }>(`select seed from renders where id = ${after.id}`))[0].seed;
    const film = await rendered(rest, seed);
    addFilm(film, await rendered({ ...alone, ...CLAMP }, seed));
    const expected = pictureOf([film], film.region, ['beauty', 'transmission.indirect', 'cost']);
    const shown = await pictureAt(after.id, 'beauty,transmission.indirect,cost');
    for (const [name, plane] of expected.channels)
      expect(Buffer.from(shown.channels.get(name)!.slice().buffer).equals(Buffer.from(plane.slice().buffer)), name).to.equal(true); // prettier-ignore
    const { body: pixel } = await dusting.get<Record<string, number>>(`/renders/${after.id}/pixel?x=48&y=32`);
    expect(pixel['beauty.G']).to.equal(shown.channels.get('beauty.G')![32 * 96 + 48]);

    const [told, there] = [trial.predicted, trial.measured].map(read);
    expect(there.stops, 'the clamp takes light').to.be.below(-0.02);
    expect(told.stops).to.be.closeTo(there.stops, 0.1);
    expect(told.rays / there.rays).to.be.within(0.85, 1.15);
  });

  it('changes nothing where the values do not', async () => {
    const { stops } = read((await measured(asked({ values: { '/clamps/indirect': 1e6 } }))).measured);
    expect(stops).to.be.closeTo(0, 1e-4);
  });

  it('is refused with why: no such object, fog, values that stand already', async () => {
    const refused = async (request: object, status: number, why: RegExp, code = CODE) => {
      const { status: got, body } = await dusting.post(`/shots/${code}/trials`, request);
      expect([got, body.error]).to.satisfy(([one, text]: [number, string]) => one === status && why.test(text), `${got}: ${body.error}`); // prettier-ignore
    };
    await refused(asked({ objects: ['nobody'] }), 409, /cannot be rendered alone: there is no object "nobody"/);
    await refused(asked({ values: { '/clamps/indirect': null } }), 409, /nothing to try/);
    const foggy = await smallShot('FOGGY-1');
    foggy.document.fog = defaultFog();
    expect((await dusting.send(filesOf(foggy))).status).to.equal(201);
    await refused(asked(), 409, /cannot be rendered alone: the shot has fog/, 'FOGGY-1');
  });

  it('stops all that it renders', async () => {
    const { body } = await dusting.post<{ number: number }>(`/shots/${CODE}/trials`, asked({ values: { ...CLAMP, '/samples': 16_384 } })); // prettier-ignore
    await until('it renders', async () => (await trialOf(body.number)).state === 'rendering');
    expect((await dusting.post(`/trials/${(await trialOf(body.number)).id}/stop`)).status).to.equal(204);
    const active = await dusting.query("select id from renders where purpose = 'trial' and state = 'active'");
    expect(active).to.deep.equal([]);
  });

  it('is kept as two shots, whose previews are its two renders, and no version', async () => {
    const { head, trials } = await dusting.shot(CODE);
    const [{ id }] = trials;
    const refusal = await dusting.post(`/trials/${id}/keep`, { both: false });
    expect([refusal.status, refusal.body.error]).to.deep.equal([409, 'Trial 1 combines two renders, which no single version can be. Make two shots of it.']); // prettier-ignore
    const keep = (rest: string, alone: string) => dusting.post(`/trials/${id}/keep-apart`, { rest, alone });
    expect((await keep('SAME', 'SAME')).status).to.equal(409);
    expect((await keep('A-1', CODE)).body.error).to.match(/APART-1 is here already/);
    expect((await dusting.get('/shots/A-1')).status, 'neither is made').to.equal(404);
    expect((await keep('APART-1-rest', 'APART-1-panes')).status).to.equal(204);
    const { rest, alone } = holdOutPair(small.document, PANES);
    for (const [code, values] of [['APART-1-rest', rest], ['APART-1-panes', { ...alone, ...CLAMP }]] as const) {
      await dusting.reach(code, (await dusting.shot(code)).renders[0].id, 'done');
      const { document, renders } = await dusting.shot(code);
      const changed = withValues(small.document, ['preview'], values);
      expect(document.objects).to.deep.equal(changed.objects);
      for (const sheet of ['preview', 'final'] as const)
        expect(document.sheets[sheet].clamps, sheet).to.deep.equal(changed.sheets.preview.clamps);
      const film = await rendered(values, changed.sheets.preview.seed);
      const expected = pictureOf([film], film.region, ['beauty']).channels.get('beauty.R')!;
      expect(Buffer.from((await pictureAt(renders[0].id, 'beauty')).channels.get('beauty.R')!.slice().buffer).equals(Buffer.from(expected.slice().buffer)), code).to.equal(true); // prettier-ignore
    } // prettier-ignore
    const now = await dusting.shot(CODE);
    expect(now.head.id, 'the shot stays').to.equal(head.id);
    expect(now.trials[0].verdict).to.equal('keep');
    expect((await dusting.post(`/trials/${id}/drop`)).body.error).to.match(/two separate shots/);
  });

  async function rendered(values: ControlValues, seed: number) {
    const document = withValues(small.document, ['preview'], values);
    const sheet = document.sheets.preview;
    const assets = await loadAssets(document, async (path) => small.files.get(path) ?? null, 'x');
    const film = createFilm({ x: 0, y: 0, width: sheet.width, height: sheet.height });
    renderGroups(compileScene(document, assets, sheet), settingsOf(sheet, seed), film, sheet.samples / 4);
    return film;
  }

  async function pictureAt(id: number, passes: string): Promise<Picture> {
    return unpackPicture(await (await fetch(`${dusting.address}/api/renders/${id}/picture?passes=${passes}`)).arrayBuffer()).picture; // prettier-ignore
  }
});
