/** A remedy that makes files: found in the version, tried beside what stands, kept with its files, undone. */
import { expect } from 'chai';
import { writeGlb } from '../../core/formats/gltf.ts';
import { box } from '../../demo/shapes.ts';
import { read } from '../unit/effects.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

const CODE = 'FILES-1';

describe('a remedy that makes files', function () {
  this.timeout(120_000);
  let dusting: Dusting;
  const shot = () => dusting.shot(CODE);
  const found = async () => (await shot()).findings.find(({ check }) => check === 'reversed-normals');

  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
    const small = await smallShot(CODE);
    // The wall is turned inside out, and only its front is there: the picture lacks what faces the camera.
    const wall = box([-4, -4, -1.1], [4, 4, -1]);
    const turned = { ...wall, normals: wall.normals!.map((v) => -v), indices: wall.indices.slice().reverse() };
    small.files.set('geometry/panes.glb', await writeGlb([{ name: 'wall', mesh: turned }, { name: 'pane', mesh: box([-0.6, -0.6, 0], [0.6, 0.6, 0.02]) }])); // prettier-ignore
    small.document.objects.wall.facing = 'front';
    small.document.sheets.final.roulette = !small.document.sheets.preview.roulette;
    for (const id of ['pane0', 'pane1', 'pane2']) delete small.document.objects[id];
    await dusting.send(filesOf(small));
    dusting.worker(2);
    await until('it is checked', async () => (await shot()).preflight?.state === 'done', 60);
  });
  after(() => dusting.destroy());

  it('stands in the list of findings, with the cause of the catalogue and the check', async () => {
    const line = (await found())!;
    expect(line).to.include({ of: 'version', cause: 'normals.reversed', renderId: null, severity: 'caution' });
    const whole = await dusting.finding(line.id);
    expect(whole.remedies[0].change!.kind).to.equal('files');
    expect(whole.remedies[0].predicted, 'forecast when it is tried').to.equal(null);
    expect((await dusting.get(`/findings/${line.id}/mask`)).status).to.equal(404);
  });

  it('is forecast before it is rendered, measured, kept with its files, and undone', async () => {
    const { id } = (await found())!;
    const request = { finding: id, remedy: 'repair', region: { x: 8, y: 8, width: 48, height: 40 }, sheet: 'preview', values: null }; // prettier-ignore
    const made = await dusting.post<{ number: number }>(`/shots/${CODE}/trials`, request);
    expect(made.status, JSON.stringify(made.body)).to.equal(201);
    const trial = async () => (await shot()).trials.find(({ number }) => number === made.body.number)!;
    await until('it is measured', async () => (await trial()).state === 'done', 90);
    const { predicted, measured, id: trialId } = await trial();
    // The far side of the wall was seen and its front was not: it stands nearer to the light.
    expect(read(predicted).stops).to.be.closeTo(read(measured).stops, 0.2);
    expect(Math.abs(read(measured).stops)).to.be.above(0.1);

    const before = await shot();
    const files = async (versionId: number) => (await dusting.get<Record<string, string>>(`/versions/${versionId}/manifest`)).body; // prettier-ignore
    expect((await dusting.post(`/trials/${trialId}/keep`, { both: false })).status).to.equal(204);
    const kept = await shot();
    expect(Object.keys(await files(kept.head.id)).length).to.equal(Object.keys(await files(before.head.id)).length + 1);
    await until('it is checked', async () => (await shot()).preflight?.state === 'done', 60);
    expect((await shot()).findings.some((one) => one.versionId === kept.head.id && one.check === 'reversed-normals')).to.equal(false); // prettier-ignore
    await dusting.post(`/shots/${CODE}/undo`, { base: kept.head.id });
    expect((await shot()).document).to.deep.equal(before.document);
  });

  it('is not tried on a sheet that it leaves as it is', async () => {
    await until('it is checked', async () => (await shot()).preflight?.state === 'done', 60);
    const { id } = (await shot()).findings.find(({ check }) => check === 'sheet-drift')!;
    const [remedy] = (await dusting.finding(id)).remedies;
    const order = { finding: id, remedy: remedy.id, region: null, sheet: 'preview', values: null };
    const made = await dusting.post<{ error: string }>(`/shots/${CODE}/trials`, order);
    expect([made.status, made.body.error]).to.deep.equal([409, 'It changes the final sheet alone, and a trial of the preview would show nothing of it. It can be carried out under Intake.']); // prettier-ignore
  });
});
