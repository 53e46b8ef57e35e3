/** What is refused over HTTP: each with a clear sentence and its place, nothing half-written. */
import { expect } from 'chai';
import { readdir } from 'node:fs/promises';
import { request } from 'node:http';
import { join } from 'node:path';
import { zip } from './foreign-bytes.ts';
import { Dusting } from './harness.ts';
import { filesOf, smallShot, type SmallShot } from './small-shot.ts';

describe('bad input over HTTP', function () {
  this.timeout(60_000);
  let dusting: Dusting;
  let good: SmallShot;

  before(async () => {
    dusting = await Dusting.create({ DUSTING_UPLOAD_LIMIT: String(8 * 1024 * 1024) });
    await dusting.server();
    good = await smallShot('BAD-1');
  });
  after(() => dusting.destroy());
  afterEach(async () => {
    expect((await dusting.get('/shots')).body, 'nothing was written').to.deep.equal([]);
    const left = await readdir(join(dusting.folder, 'uploads')).catch(() => []);
    expect(left, 'nothing is left of the upload').to.deep.equal([]);
    expect((await dusting.get('/health')).status).to.equal(200);
  });

  /** Sends the good shot with something changed. */
  async function sendChanged(change: (shot: { document: any; files: Map<string, Uint8Array> }) => void) {
    const copy = { document: structuredClone(good.document), files: new Map(good.files) };
    change(copy);
    return dusting.send(filesOf(copy));
  }

  const documents: [string, (d: any) => void, string, RegExp][] = [
    ['an unknown key', (d) => (d.sheets.preview.smaples = 8), '/sheets/preview/smaples', /no such key/],
    ['a negative sample count', (d) => (d.sheets.preview.samples = -8), '/sheets/preview/samples', /at least 4/],
    ['null for NaN, as JSON writes it', (d) => (d.materials.wall.roughness = NaN), '/materials/wall/roughness', /number/],
    ['a texture path that leaves the folder', (d) => (d.textures.t = { file: '../../../etc/passwd', colourSpace: 'srgb' }), '/textures/t/file', /inside the shot folder/],
    ['a mesh that is not in the file', (d) => (d.meshes.pane.mesh = 9), '/meshes/pane', /no mesh 9/],
  ]; // prettier-ignore
  for (const [what, change, path, expected] of documents)
    it(`refuses a document with ${what}`, async () => {
      const { status, body } = await sendChanged(({ document }) => change(document));
      expect(status).to.equal(400);
      const problem = body.problems.find((p) => p.path === path);
      expect(problem, JSON.stringify(body)).to.not.equal(undefined);
      expect(problem!.expected).to.match(expected);
    });

  it('refuses a truncated glTF, naming the file and how much is missing', async () => {
    const { status, body } = await sendChanged(({ files }) => {
      const whole = files.get('geometry/panes.glb')!;
      files.set('geometry/panes.glb', whole.slice(0, whole.length - 100));
    });
    expect(status).to.equal(400);
    expect(body.error).to.match(/geometry\/panes\.glb: is cut off: it states \d+ bytes/);
  });

  it('refuses an upload without a document, with two, and with text that is no JSON', async () => {
    expect((await dusting.send([['textures/a.png', 'x']])).body.error).to.match(/expected one shot\.json, or a scene/);
    expect((await dusting.send([['geometry/a.glb', 'x']])).body.error).to.match(
      /geometry\/a\.glb: is not readable glTF.*Nothing was kept/,
    );
    const two = await dusting.send([['a/shot.json', '{}'], ['b/shot.json', '{}']]); // prettier-ignore
    expect(two.body.error).to.match(/exactly one shot\.json/);
    const broken = await dusting.send([['shot.json', '{"schema": ']]);
    expect(broken.status).to.equal(400);
    expect(broken.body.error).to.match(/JSON text/);
  });

  it('refuses a file whose name leaves the folder', async () => {
    const { status, body } = await dusting.send([['../evil.sh', 'x'], ...filesOf(good)]);
    expect(status).to.equal(400);
    expect(body.error).to.match(/"\.\.\/evil\.sh", which is not taken: it leaves its folder/);
  });

  it('hears a refused upload out, so that the answer arrives and not a broken connection', async () => {
    const body = Buffer.alloc(64 * 1024, '-');
    const head = '--x\r\nContent-Disposition: form-data; name="files"; filename="../evil.sh"\r\n\r\n';
    const tail = '\r\n--x--\r\n';
    const answer = await new Promise<{ status: number; unsent: number }>((resolve, reject) => {
      let unsent = 20;
      const sending = request(`${dusting.address}/api/shots`, {
        method: 'POST',
        headers: {
          'Content-Type': 'multipart/form-data; boundary=x',
          'Content-Length': head.length + unsent * body.length + tail.length,
        },
      });
      sending.on('response', (response) => resolve({ status: response.statusCode!, unsent }));
      sending.on('error', reject);
      sending.write(head);
      const next = () => {
        if (unsent-- > 0) sending.write(body, () => setTimeout(next, 20));
        else sending.end(tail);
      };
      setTimeout(next, 200);
    });
    expect(answer).to.deep.equal({ status: 400, unsent: -1 });
  });

  it('refuses an archive that is none, that is cut off, and that unpacks to more than is taken', async () => {
    const noArchive = await dusting.send([['shot.zip', 'this is no archive']]);
    expect(noArchive.body.error).to.match(/^The archive shot\.zip could not be unpacked: .*[^.]\. Nothing was kept\.$/);
    const whole = await zip(filesOf(good));
    const cut = await dusting.send([['shot.zip', whole.subarray(0, whole.length - 30)]]);
    expect(cut.status).to.equal(400);
    const bomb = await zip([['shot.json', Buffer.alloc(30 * 1024 * 1024)]]);
    expect(bomb.length).to.be.below(100_000);
    const large = await dusting.send([['shot.zip', bomb]]);
    expect(large.status).to.equal(413);
    expect(large.body.error).to.match(/larger than 8 MB.*Nothing was kept/);
  });

  it('refuses a 4 GB upload by what it says of itself, before it is sent', async () => {
    const status = await new Promise<number>((resolve, reject) => {
      const sending = request(`${dusting.address}/api/shots`, {
        method: 'POST',
        headers: { 'Content-Type': 'multipart/form-data; boundary=x', 'Content-Length': String(4 * 1024 ** 3) },
      });
      sending.on('response', (response) => {
        resolve(response.statusCode!);
        sending.destroy();
      });
      sending.on('error', reject);
      sending.write('--x\r\nContent-Disposition: form-data; name="files"; filename="big.bin"\r\n\r\n');
    });
    expect(status).to.equal(413);
  });

  it('refuses more bytes than are taken as they come, and an upload that is no form', async () => {
    const large = await dusting.send([['big.bin', new Uint8Array(8.5 * 1024 * 1024)]]);
    expect(large.status).to.equal(413);
    const plain = await dusting.post('/shots', {});
    expect(plain.status).to.equal(400);
    expect(plain.body.error).to.match(/form with files/);
  });

  it('answers for what is not there, and for bodies that cannot be read', async () => {
    const answers: [string, Promise<{ status: number; body: any }>, number, RegExp][] = [
      ['a shot', dusting.get('/shots/NOPE'), 404, /no shot "NOPE"/],
      ['its events', dusting.get('/shots/NOPE/events'), 404, /no shot "NOPE"/],
      ['a render', dusting.get('/renders/12345/picture'), 404, /no render 12345/],
      ['a render by a word', dusting.get('/renders/abc/picture'), 404, /no render "abc"/],
      ['a picture of no render', dusting.get('/renders/1/picture?passes=beauty'), 404, /no render 1/],
      ['a render of an unknown shot', dusting.post('/shots/NOPE/renders', { sheet: 'preview', region: null }), 404, /no shot "NOPE"/],
      ['stopping no render', dusting.post('/renders/77/stop'), 404, /no render 77/],
      ['a finding', dusting.post('/findings/5/aside', { reason: 'x' }), 404, /no finding 5/],
      ['a trial', dusting.post('/trials/5/keep', { both: true }), 404, /no trial 5/],
      ['an address', dusting.get('/nothing/here'), 404, /no address GET \/nothing\/here/],
      ['no JSON', dusting.post('/shots/NOPE/renders', '{"sheet": '), 400, /could not be read/],
      ['a wrong body', dusting.post('/shots/NOPE/renders', { sheet: 'draft', region: null }), 400, /\/sheet is "draft"/],
      ['a wrong region', dusting.post('/shots/NOPE/renders', { sheet: 'preview', region: { x: -1, y: 0, width: 4, height: 0 } }), 400, /\/region\/x is -1, expected at least 0/],
    ]; // prettier-ignore
    for (const [what, asked, status, error] of answers) {
      const answer = await asked;
      expect(answer.status, what).to.equal(status);
      expect(answer.body.error, what).to.match(error);
    }
  });
});
