/** Pictures beside a shot over HTTP: streamed in, told in sets, corrected, kept; looks and balance. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import { expect } from 'chai';
import { createPicture } from '../../core/data/picture.ts';
import { writeExr } from '../../core/formats/exr/write.ts';
import type { ShotPictures } from '../../core/picture/brought.ts';
import type { ErrorBody, ShotSummary } from '../../core/contracts/events.ts';
import { Dusting } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

const CODE = 'LOOK-1';
const frames = join(import.meta.dirname, '../../demo/ha-020/frames');

function exr(value: number): Uint8Array {
  const picture = createPicture(32, 20, ['R', 'G', 'B']);
  for (const plane of picture.channels.values()) plane.fill(value);
  return writeExr(picture, { deflate: (raw) => deflateSync(raw), display: picture, attributes: { samples: '64' } });
}

describe('pictures beside a shot', function () {
  this.timeout(120_000);
  let dusting: Dusting;
  const send = async (name: string, bytes: Uint8Array, code: string | null = CODE) => {
    const path = code === null ? '/pictures' : `/shots/${code}/pictures`;
    const response = await fetch(`${dusting.address}/api${path}?name=${encodeURIComponent(name)}`, { method: 'POST', body: bytes as Uint8Array<ArrayBuffer>, headers: { 'Content-Type': 'application/octet-stream' } }); // prettier-ignore
    return { status: response.status, body: (await response.json()) as { code: string; set: number; picture: number } & ErrorBody }; // prettier-ignore
  };
  const pictures = async (code = CODE): Promise<ShotPictures> => (await dusting.get(`/shots/${code}/pictures`)).body;
  const put = (path: string, body: object) =>
    fetch(`${dusting.address}/api${path}`, { method: 'PUT', body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }); // prettier-ignore
  const drop = (path: string) => fetch(`${dusting.address}/api${path}`, { method: 'DELETE' });

  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
    await dusting.send(filesOf(await smallShot(CODE)));
  });
  after(() => dusting.destroy());

  it('come in as they are, and go out byte for byte', async () => {
    const bytes = exr(0.5);
    const { status, body } = await send('beauty.exr', bytes);
    expect(status).to.equal(201);
    const { sets } = await pictures();
    expect(sets.map(({ name, take }) => [name, take])).to.deep.equal([['beauty.exr', 1]]);
    expect(sets[0].reading).to.deep.equal({ roles: {}, space: null, bakedExposure: 0, samples: 64 });
    expect(sets[0].pictures[0].facts.figures!.mean).to.be.closeTo(0.5, 1e-6);
    const file = await fetch(`${dusting.address}/api/pictures/${body.picture}/file`);
    expect(Buffer.from(await file.arrayBuffer()).equals(bytes)).to.equal(true);
    expect(file.headers.get('content-encoding'), 'packed already').to.equal(null);
  });

  it('are the same when they come again, and another take when their bytes are others', async () => {
    const [again] = (await pictures()).sets;
    expect((await send('beauty.exr', exr(0.5))).body.picture).to.equal(again.pictures[0].id);
    await send('beauty.exr', exr(0.7));
    expect((await pictures()).sets.map(({ take }) => take)).to.deep.equal([1, 2]);
  });

  it('of a numbered sequence are one set in the order of frames, a cut one among them told', async () => {
    for (const frame of [1007, 1001, 1002]) await send(`lantern-push.${frame}.exr`, new Uint8Array(readFileSync(join(frames, `lantern-push.${frame}.exr`)))); // prettier-ignore
    const set = (await pictures()).sets.find(({ name }) => name === 'lantern-push.####.exr')!;
    expect(set.pictures.map(({ frame }) => frame)).to.deep.equal([1001, 1002, 1007]);
    const cut = set.pictures[2].facts;
    expect(cut.missingChunks).to.equal(3);
    expect(cut.health.findings[0]).to.include({ id: 'cut-short', severity: 'stop' });
    const roles = Object.fromEntries(set.pictures[0].facts.layers.map(({ name, role }) => [name, role]));
    expect(roles).to.include({ '': 'beauty', diffuse: 'light', lg_flame: 'light group', N: 'data', crypto_object00: 'matte' }); // prettier-ignore
  });

  it('that cannot be read are refused with file and byte, and nothing is kept of them', async () => {
    const before = (await pictures()).sets.length;
    const bad = await send('bad.exr', new TextEncoder().encode('no picture at all'));
    expect(bad.status).to.equal(400);
    expect(bad.body.error).to.equal('bad.exr: at byte 0: does not begin as an EXR file does. Nothing was kept.');
    const text = await send('notes.txt', new Uint8Array(3));
    expect([text.status, text.body.error]).to.deep.equal([400, '"notes.txt" cannot be read as a picture; exr, hdr, pfm, png, jpg, tif, jpeg, tiff can.']); // prettier-ignore
    expect((await send('a.exr', exr(1), 'NO-SHOT')).status).to.equal(404);
    expect((await pictures()).sets.length).to.equal(before);
  });

  it('without a shot start one, the further frames of a sequence go into it', async () => {
    const first = await send('hive yard_v2.0101.exr', exr(0.2), null);
    expect([first.status, first.body.code]).to.deep.equal([201, 'hive-yard_v2']);
    expect((await send('hive yard_v2.0102.exr', exr(0.3), null)).body).to.include({ code: 'hive-yard_v2', set: first.body.set }); // prettier-ignore
    const { document, renders } = await dusting.shot('hive-yard_v2');
    expect([document.name, document.frame, document.sheets.preview.width, renders.length]).to.deep.equal(['hive yard v2', 101, 32, 0]); // prettier-ignore
    const listed = (await dusting.get<ShotSummary[]>('/shots')).body.find(({ code }) => code === 'hive-yard_v2')!;
    expect(listed.pictures).to.equal(2);
  });

  it('are what a person says they are', async () => {
    const [set] = (await pictures()).sets;
    const reading = { roles: { '': 'light' }, space: 'acescg', bakedExposure: 1, samples: 128 };
    expect((await put(`/picture-sets/${set.id}`, reading)).status).to.equal(204);
    expect((await pictures()).sets[0].reading).to.deep.equal(reading);
    const wrong = await put(`/picture-sets/${set.id}`, { ...reading, space: 'somewhere' });
    expect(wrong.status).to.equal(400);
    expect(((await wrong.json()) as ErrorBody).problems[0].path).to.equal('/space');
    expect((await put('/picture-sets/99999', reading)).status).to.equal(404);
  });

  it('have their views kept, and their lights’ balance, with the shot', async () => {
    const revision = (await dusting.shot(CODE)).lookRevision;
    const look = { name: 'grain under the table', note: 'see the left edge', query: { a: 'p1', exposure: '2' }, pins: [{ x: 3, y: 4, text: 'here' }] }; // prettier-ignore
    expect((await dusting.post(`/shots/${CODE}/looks`, look)).status).to.equal(201);
    expect((await dusting.post(`/shots/${CODE}/looks`, { ...look, name: '' })).status).to.equal(400);
    const balance = { lg_flame: { stops: -1.5, isMuted: false } };
    expect((await put(`/shots/${CODE}/balance`, balance)).status).to.equal(204);
    const now = await pictures();
    expect(now.looks[0]).to.deep.include(look);
    expect(now.balance).to.deep.equal(balance);
    expect((await dusting.shot(CODE)).lookRevision).to.equal(revision + 2);
    expect((await drop(`/looks/${now.looks[0].id}`)).status).to.equal(204);
    expect((await pictures()).looks).to.deep.equal([]);
  });

  it('are taken off the shot as a set', async () => {
    const { sets } = await pictures();
    expect((await drop(`/picture-sets/${sets[0].id}`)).status).to.equal(204);
    expect((await drop(`/picture-sets/${sets[0].id}`)).status).to.equal(404);
    expect((await pictures()).sets.length).to.equal(sets.length - 1);
    expect((await dusting.get(`/pictures/${sets[0].pictures[0].id}/file`)).status).to.equal(404);
  });
});
