/** What is turned, added, deleted and gone back to over HTTP: lights, cameras, frames, images, versions, copies of shots. */
import { expect } from 'chai';
import { placementOf, withPart } from '../../core/data/placement.ts';
import { newCamera, newLight } from '../../core/document/new-items.ts';
import { writePfm } from '../../core/formats/pfm.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

const CODE = 'TURN-1';

describe('turning, adding and going back', function () {
  this.timeout(180_000);
  let dusting: Dusting;
  const shot = () => dusting.shot(CODE);
  const dials = async (body: object) =>
    dusting.post(`/shots/${CODE}/dials`, { base: (await shot()).head.id, sheets: ['preview'], values: {}, ...body });
  const texts = () => dusting.query<{ id: number; document: string }>('select id, document from versions order by id');

  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
    const small = await smallShot(CODE);
    await dusting.send(filesOf(small));
    dusting.worker(2);
  });
  after(() => dusting.destroy());

  it('turns a light, tells the history of angles, and undoes it to the same bytes', async () => {
    const before = (await texts()).at(-1)!;
    const { transform } = (await shot()).document.lights.window;
    const { rotation } = placementOf(transform);
    const turned = withPart(transform, transform, 'rotation', [rotation[0] - 20, rotation[1], rotation[2]]);
    await dials({ values: { '/lights/window/transform': turned } });
    const now = await shot();
    expect(now.head.reason).to.match(/^window, Rotation: -?[\d.]+, -?[\d.]+, -?[\d.]+° → -?[\d.]+, /);
    await dusting.post(`/shots/${CODE}/undo`, { base: now.head.id });
    const { head } = await shot();
    expect((await texts()).find(({ id }) => id === head.id)).to.deep.equal(before);
  });

  it('adds a light and a camera, looks through it, deletes it again, and says so', async () => {
    const { document } = await shot();
    const light = newLight(document, 'spot', null);
    const camera = newCamera(document);
    await dials({ values: { [light.pointer]: light.item, [camera.pointer]: camera.item, '/camera': 'camera' } });
    expect((await shot()).head.reason).to.equal('spot light: new light; camera: new camera; Camera: main → camera');
    expect((await shot()).document.camera).to.equal('camera');
    await dials({ remove: ['/cameras/camera'] });
    const after = await shot();
    expect(after.head.reason).to.equal('camera: camera deleted; Camera: camera → main');
    expect(after.document.cameras).to.have.all.keys('main');
    const refused = await dials({ remove: ['/cameras/main'] });
    expect(refused.status).to.be.within(400, 422);
    expect(JSON.stringify(refused.body)).to.match(/no other camera/);
  });

  it('goes back to a version as a new one, its bytes and its name in the history', async () => {
    const { versions } = await shot();
    const first = versions[0];
    expect((await dusting.post(`/versions/${first.id}/name`, { name: ' as it came ' }, 'PUT')).status).to.be.below(300);
    const base = (await shot()).head.id;
    await dusting.post(`/shots/${CODE}/return`, { base, version: first.id });
    const { head } = await shot();
    expect(head).to.include({ parentId: base, reason: 'Back to version 1, as it came' });
    const rows = await texts();
    expect(rows.find(({ id }) => id === head.id)!.document).to.equal(rows.find(({ id }) => id === first.id)!.document);
    const again = await dusting.post(`/shots/${CODE}/return`, { base: head.id, version: first.id });
    expect(again.status).to.equal(409);
    expect(again.body.error).to.match(/is already the same as version 1/);
  });

  it('takes an image in as the environment, says how it is read, and refuses what is none', async () => {
    const send = (name: string, bytes: Uint8Array, use = 'environment') =>
      fetch(`${dusting.address}/api/shots/${CODE}/images?name=${name}&use=${use}`, { method: 'POST', body: Buffer.from(bytes), headers: { 'Content-Type': 'application/octet-stream' } }); // prettier-ignore
    // A shot that has no image yet is none to take one from.
    expect((await dusting.get('/images')).body).to.deep.equal([]);
    const answer = await send('valley.pfm', writePfm(8, 4, new Float32Array(96).fill(0.5)));
    expect(answer.status).to.equal(201);
    expect(await answer.json()).to.deep.equal({ item: '/environment', colourSpace: 'linear', why: 'PFM holds linear values' }); // prettier-ignore
    const { document, head } = await shot();
    expect(document.textures.valley).to.deep.equal({ file: 'textures/valley.pfm', colourSpace: 'linear' });
    expect(document.environment).to.include({ kind: 'image', texture: 'valley' });
    expect(head.reason).to.match(/^Added valley\.pfm, read as linear; /);
    const manifest = (await dusting.get<Record<string, string>>(`/versions/${head.id}/manifest`)).body;
    expect(manifest['textures/valley.pfm']).to.match(/^[0-9a-f]{64}$/);
    const images = { 'textures/valley.pfm': manifest['textures/valley.pfm'] };
    expect((await dusting.get('/images')).body).to.deep.equal([{ code: CODE, name: document.name, images }]);
    const other = await send('valley.pfm', writePfm(8, 4, new Float32Array(96).fill(0.25)), 'map');
    expect(((await other.json()) as { item: string }).item).to.equal('/maps/valley');
    expect((await shot()).document.textures.valley.file).to.equal('textures/valley.pfm');
    for (const [name, bytes, expected] of [['a.png', new Uint8Array(40), /a\.png/], ['a.txt', new Uint8Array(4), /cannot be read as a picture/]] as const) {
      const refused = await send(name, bytes);
      expect(refused.status, name).to.equal(400);
      expect(((await refused.json()) as { error: string }).error).to.match(expected);
    }
    expect((await send('a.pfm', writePfm(2, 2, new Float32Array(12)), 'wallpaper')).status).to.equal(400);
  }); // prettier-ignore

  it('adds the objects of a scene, its files and ids beside those that are there, and undoes it to the same bytes', async () => {
    const before = (await texts()).at(-1)!;
    const was = await shot();
    const cube = ['mtllib cube.mtl', 'o wall', 'v 0 0 0', 'v 1 0 0', 'v 1 1 0', 'v 0 1 0', 'usemtl red', 'f 1 2 3 4'].join('\n');
    const files: [string, string][] = [['cube.obj', cube], ['cube.mtl', 'newmtl red\nKd 0.8 0.1 0.1\n']];
    const add = (base: number, what = files) => dusting.send<{ objects: string[] }>(what, `/shots/${CODE}/objects?base=${base}&name=cube.obj`);
    const { status, body } = await add(was.head.id);
    expect(status, JSON.stringify(body)).to.equal(200);
    expect(body.objects).to.deep.equal(['wall-2']);
    const { document, head } = await shot();
    expect(head.reason).to.equal('Added 1 object of cube.obj');
    const { material, mesh } = document.objects['wall-2'];
    expect(document.materials[material].baseColour[0]).to.be.above(0.5);
    expect(document.objects.wall).to.deep.equal(was.document.objects.wall);
    const manifest = (await dusting.get<Record<string, string>>(`/versions/${head.id}/manifest`)).body;
    expect(manifest[document.meshes[mesh!].file]).to.match(/^[0-9a-f]{64}$/);
    // Once more beside itself: its file is the one that is there.
    expect((await add(head.id)).body.objects).to.deep.equal(['wall-3']);
    const again = await shot();
    expect(again.document.meshes[again.document.objects['wall-3'].mesh!].file).to.equal(document.meshes[mesh!].file);
    await dusting.post(`/shots/${CODE}/undo`, { base: again.head.id });
    await dusting.post(`/shots/${CODE}/undo`, { base: head.id });
    const back = await shot();
    expect((await texts()).find(({ id }) => id === back.head.id)).to.deep.equal(before);
    const refused = async (what: [string, string][], base: number, expected: number, told: RegExp) => {
      const answer = await add(base, what);
      expect([answer.status, JSON.stringify(answer.body)]).to.satisfy(([code, text]: [number, string]) => code === expected && told.test(text), `${answer.status} ${JSON.stringify(answer.body)}`);
    };
    await refused([['notes.txt', 'a']], back.head.id, 400, /scene/);
    await refused([['empty.obj', '# nothing']], back.head.id, 400, /Nothing was|no /i);
    await refused(files, was.head.id - 1, 409, /version/);
    expect((await shot()).head.id).to.equal(back.head.id);
  }); // prettier-ignore

  it('renders frames as one, each at its frame with noise of its own, and cancels those that are left', async () => {
    const { body } = await dusting.post<{ id: number }>(`/shots/${CODE}/frames`, {
      sheet: 'preview',
      frames: [3, 1, 2],
    });
    const own = async () => (await shot()).renders.filter(({ range }) => range === body.id);
    expect((await own()).map(({ frame, purpose }) => `${purpose} ${frame}`)).to.deep.equal(['frame 1', 'frame 2', 'frame 3']); // prettier-ignore
    await until('all frames are rendered', async () => (await own()).every(({ state }) => state === 'done'), 90);
    const [one, two] = await Promise.all((await own()).slice(0, 2).map(({ id }) => dusting.bits(id, 'beauty')));
    expect([...one.values()][0].equals([...two.values()][0])).to.equal(false);
    expect((await dusting.get<{ frame: number }>(`/renders/${(await own())[1].id}/document`)).body.frame).to.equal(2); // prettier-ignore
    const more = await dusting.post<{ id: number }>(`/shots/${CODE}/frames`, { sheet: 'final', frames: Array.from({ length: 20 }, (_, i) => i) }); // prettier-ignore
    await dusting.post(`/frame-ranges/${more.body.id}/stop`);
    expect((await shot()).renders.some(({ range, state }) => range === more.body.id && state === 'stopped')).to.equal(true); // prettier-ignore
    expect((await dusting.post(`/shots/${CODE}/frames`, { sheet: 'preview', frames: [] })).status).to.equal(400);
  });

  it('leaves a trial that was kept and undone open, to be kept again', async () => {
    const { body } = await dusting.post<{ number: number }>(`/shots/${CODE}/trials`, { finding: null, remedy: null, region: { x: 30, y: 20, width: 24, height: 16 }, sheet: 'preview', values: { '/limits/transmission': 8, '/limits/overall': 9 } }); // prettier-ignore
    const trial = async () => (await shot()).trials.find(({ number }) => number === body.number)!;
    expect((await trial()).title).to.equal('Transmission limit: 2 → 8; Overall limit: 4 → 9');
    await until('the trial is measured', async () => (await trial()).state === 'done', 90);
    const keep = async () => dusting.post(`/trials/${(await trial()).id}/keep`, { both: false });
    await keep();
    expect((await trial()).verdict).to.equal('keep');
    expect((await dusting.post(`/trials/${(await trial()).id}/drop`)).status).to.equal(409);
    await dusting.post(`/shots/${CODE}/undo`, { base: (await shot()).head.id });
    expect((await trial()).verdict).to.equal(null);
    expect((await keep()).status).to.be.below(300);
    expect((await shot()).document.sheets.preview.limits.transmission).to.equal(8);
  });

  it('copies a shot under another code, and refuses one that is taken or none', async () => {
    expect((await dusting.post(`/shots/${CODE}/copies`, { code: 'TURN-2', name: 'the other' })).status).to.equal(201);
    const copy = await dusting.shot('TURN-2');
    const { document } = await shot();
    expect(copy.document).to.deep.equal({ ...document, code: 'TURN-2', name: 'the other' });
    expect(copy.versions.map(({ reason }) => reason)[0]).to.match(/^Copy of TURN-1, version \d+$/);
    expect((await dusting.post(`/shots/${CODE}/copies`, { code: 'TURN-2', name: '' })).status).to.equal(409);
    expect((await dusting.post(`/shots/${CODE}/copies`, { code: 'a b', name: '' })).status).to.equal(400);
    await dusting.post('/shots/TURN-2/name', { name: 'renamed' }, 'PUT');
    expect((await dusting.shot('TURN-2')).name).to.equal('renamed');
  });
});
