/** Intake over HTTP: checks of each version, repairs, reports, logs and what is decided about them. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import type { Intake, ShotLog } from '../../core/contracts/intake.ts';
import { defaultMap } from '../../core/document/defaults.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

const CODE = 'INTAKE-1';

describe('intake', function () {
  this.timeout(120_000);
  let dusting: Dusting;
  const intake = async (): Promise<Intake> => (await dusting.get(`/shots/${CODE}/intake`)).body;
  const checked = () => until('it is checked', async () => (await intake()).state === 'done', 60);
  const of = async (id: string) => (await intake()).checks.find((check) => check.id === id)!;
  const logs = async (): Promise<ShotLog[]> => (await dusting.get(`/shots/${CODE}/logs`)).body;
  const sendLog = (name: string, text: string | Uint8Array) =>
    fetch(`${dusting.address}/api/shots/${CODE}/logs?name=${name}`, { method: 'POST', body: text as string, headers: { 'Content-Type': 'application/octet-stream' } }); // prettier-ignore

  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
    const shot = await smallShot(CODE);
    shot.document.sheets.preview.limits.transmission = 6;
    await dusting.send(filesOf(shot));
    dusting.worker(1);
    await checked();
  });
  after(() => dusting.destroy());

  it('checks each version by itself, and its files', async () => {
    const { checks, files, version, cameIn } = await intake();
    expect([checks.length, version, cameIn]).to.deep.equal([61, 1, null]);
    expect(files.map(({ path, state }) => [path, state])).to.deep.equal([['shot.json', 'ok'], ['geometry/panes.glb', 'ok']]); // prettier-ignore
    const summary = (await dusting.shot(CODE)).preflight!;
    expect(summary).to.include({ state: 'done', stop: 0 });
    expect(summary.caution).to.equal(checks.filter(({ state }) => state === 'caution').length);
  });

  it('repairs as a version, on the version that was looked at, and undoes it', async () => {
    expect((await of('limit-overridden')).state).to.equal('caution');
    const { head } = await dusting.shot(CODE);
    const repair = (base: number, check = 'limit-overridden') =>
      dusting.post(`/shots/${CODE}/repairs`, { base, check });
    expect((await repair(head.id, 'ngon')).status).to.equal(409);
    expect((await repair(head.id)).status).to.equal(204);
    expect((await repair(head.id)).status, 'the shot has moved on').to.equal(409);
    const { head: now, document } = await dusting.shot(CODE);
    expect([now.number, document.sheets.preview.limits.overall]).to.deep.equal([2, 7]);
    expect(now.reason).to.equal('Raise the overall limit (limits that others override)');
    await checked();
    expect((await of('limit-overridden')).state).to.equal('clear');
    await dusting.post(`/shots/${CODE}/undo`, { base: now.id });
    expect((await of('limit-overridden')).state).to.equal('caution');
  });

  it('gives reports in four kinds', async () => {
    for (const [kind, type] of [['html', 'text/html'], ['md', 'text/markdown'], ['csv', 'text/csv'], ['json', 'application/json']]) {
      const answer = await fetch(`${dusting.address}/api/shots/${CODE}/preflight.${kind}`);
      expect(answer.headers.get('content-type')).to.include(type);
      expect(answer.headers.get('content-disposition')).to.include(`${CODE}-preflight.${kind}`);
      expect(await answer.text()).to.include('limit-overridden');
    }
    expect((await dusting.get(`/shots/${CODE}/preflight.pdf`)).status).to.equal(404);
  }); // prettier-ignore

  it('packs the shot as an archive that unzip opens and that is a whole shot again', async () => {
    const answer = await fetch(`${dusting.address}/api/shots/${CODE}/package.zip`);
    expect(answer.headers.get('content-disposition')).to.include(`${CODE}.zip`);
    const folder = mkdtempSync(join(tmpdir(), 'dusting-package-'));
    writeFileSync(join(folder, 'p.zip'), new Uint8Array(await answer.arrayBuffer()));
    execFileSync('unzip', ['-q', 'p.zip', '-d', 'shot'], { cwd: folder });
    execFileSync('sha256sum', ['-c', '--strict', '--quiet', 'SHA256SUMS'], { cwd: join(folder, 'shot') });
    const document = JSON.parse(readFileSync(join(folder, 'shot/shot.json'), 'utf8'));
    const geometry = new Uint8Array(readFileSync(join(folder, 'shot/geometry/panes.glb')));
    rmSync(folder, { recursive: true });
    const { status } = await dusting.send([['shot.json', JSON.stringify({ ...document, code: 'AGAIN-1' })], ['geometry/panes.glb', geometry]]); // prettier-ignore
    expect(status).to.equal(201);
  });

  it('reads a log on its way in, judges it by the shot’s files, and keeps what is decided', async () => {
    const text = ['+0.1s info [open] frame 1 mem 10 MB: start', '+0.2s warning [open] frame 1 mem 10 MB: cannot open texture "tex/lost.png"', '+0.3s warning [open] frame 1 mem 10 MB: cannot read file "geometry/panes.glb"', '+9.0s info [done] frame 1 mem 12 MB rays camera=10,shadow=4: wrote a.exr'].join('\n'); // prettier-ignore
    expect((await sendLog('ours.log', text)).status).to.equal(201);
    const [log] = await logs();
    expect(log).to.include({ name: 'ours.log', format: 'Dusting', lines: 4, state: 'caution', brokeOff: null });
    const [first, second] = ['lost', 'panes'].map((word) => log.kinds.find(({ message }) => message.includes(word))!);
    expect(first.verdict.harmless).to.equal('unknown');
    expect(second.verdict).to.deep.equal({ harmless: 'no', why: '"geometry/panes.glb" is there now: it was missing where this was rendered' }); // prettier-ignore
    const decide = (harmless: boolean | null) => dusting.post(`/shots/${CODE}/log-decisions`, { key: first.key, harmless, why: 'seen' }); // prettier-ignore
    await decide(true);
    const again = (await logs())[0].kinds.find(({ key }) => key === first.key)!;
    expect(again.verdict).to.deep.equal({ harmless: 'yes', why: 'decided for this shot: seen' });
    await decide(null);
    expect((await logs())[0].kinds.find(({ key }) => key === first.key)!.verdict.harmless).to.equal('unknown');
    await fetch(`${dusting.address}/api/logs/${log.id}`, { method: 'DELETE' });
    expect(await logs()).to.deep.equal([]);
  });

  it('takes a shot whose files did not all come along, shows what is missing, and stops it in preflight', async () => {
    const shot = await smallShot('LOST-1');
    const document = shot.document;

    document.meshes.pane.file = 'geometry/lost.glb';
    document.textures.label = { file: 'textures/label.png', colourSpace: 'srgb' };
    document.maps.label = { ...defaultMap('image'), texture: 'label' };
    document.materials.wall.baseColourMap = 'label';
    const { status, body } = await dusting.send(filesOf(shot));
    expect([status, body.code]).to.deep.equal([201, 'LOST-1']);
    await until('it is checked', async () => (await dusting.shot('LOST-1')).preflight?.state === 'done', 60);
    const { checks, files } = (await dusting.get('/shots/LOST-1/intake')).body;
    const of = (id: string) => checks.find((check: { id: string }) => check.id === id);
    expect(of('file-missing')).to.deep.include({ state: 'stop', found: '1 missing file' });
    expect(of('texture-missing').offenders[0].object).to.equal('textures/label.png');
    const missing = files.filter((file: { state: string }) => file.state === 'missing');
    expect(missing.map((file: { path: string }) => file.path).sort()).to.deep.equal([
      'geometry/lost.glb',
      'textures/label.png',
    ]);
    await until('it is rendered', async () => (await dusting.shot('LOST-1')).renders[0].state === 'done', 60);
    const [{ warnings }] = (await dusting.shot('LOST-1')).renders;
    expect(warnings.join(' ')).to.match(/"geometry\/lost\.glb" is not there; objects of mesh "pane" are left out/);
    const packed = await dusting.get<{ error: string }>('/shots/LOST-1/package.zip');
    expect([packed.status, packed.body.error]).to.deep.equal([409, 'No package was made of LOST-1: the package lacks 2 files: geometry/lost.glb, textures/label.png.']); // prettier-ignore
    expect(warnings.join(' ')).to.match(/its name is shown in place of texture "label"/);
  });

  it('refuses what is no log with a sentence, and keeps nothing of it', async () => {
    for (const [body, message] of [['', /is empty/], [new Uint8Array(64), /is not text/]] as const) {
      const answer = await sendLog('x.log', body);
      expect(answer.status).to.equal(400);
      expect(((await answer.json()) as { error: string }).error).to.match(message).and.match(/Nothing was kept/);
    } // prettier-ignore
    expect(await logs()).to.deep.equal([]);
  });
});
