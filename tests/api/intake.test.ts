/** Intake over HTTP: checks of each version, repairs, reports, logs and what is decided about them. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import type { BroughtFiles, DryRunTold, Intake, ShotLog } from '../../core/contracts/intake.ts';
import { CHECKS } from '../../core/intake/preflight/registry.ts';
import { defaultMap } from '../../core/document/defaults.ts';
import { writePng } from '../../core/formats/png.ts';
import { sha256 } from '../../host/package-zip.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

const CODE = 'INTAKE-1';

describe('intake', function () {
  this.timeout(120_000);
  let dusting: Dusting;
  const intake = async (): Promise<Intake> => (await dusting.get(`/shots/${CODE}/intake`)).body;
  const checked = () => until('it is checked', async () => (await intake()).state === 'done', 60);
  const of = async (id: string) => (await intake()).checks.find((check) => check.id === id)!;
  const allLogs = async (): Promise<ShotLog[]> => (await dusting.get(`/shots/${CODE}/logs`)).body;
  /** Those that came with the shot. */
  const logs = async () => (await allLogs()).filter(({ id }) => id > 0);
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
    expect([checks.length, version, cameIn]).to.deep.equal([CHECKS.length, 1, null]);
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
    expect(now.reason).to.equal('Raise the overall limit (overridden limits)');
    await checked();
    expect((await of('limit-overridden')).state).to.equal('clear');
    await dusting.post(`/shots/${CODE}/undo`, { base: now.id });
    expect((await of('limit-overridden')).state).to.equal('caution');
    const all = await dusting.post(`/shots/${CODE}/repairs`, { base: (await dusting.shot(CODE)).head.id, check: null });
    expect(all.status).to.equal(204);
    const cured = await dusting.shot(CODE);
    expect(cured.head.reason).to.match(/^Carried out \d repairs: /);
    await checked();
    expect((await intake()).checks.filter(({ repair }) => repair).map(({ id }) => id)).to.deep.equal([]);
    await dusting.post(`/shots/${CODE}/undo`, { base: cured.head.id });
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
    const whole = Buffer.from(await answer.clone().arrayBuffer());
    // One that broke off goes on where it was.
    const rest = await fetch(`${dusting.address}/api/shots/${CODE}/package.zip`, { headers: { Range: 'bytes=100-' } });
    expect([rest.status, Buffer.compare(Buffer.from(await rest.arrayBuffer()), whole.subarray(100))]).to.deep.equal([206, 0]); // prettier-ignore
    const dry = await dusting.post<DryRunTold>(`/shots/${CODE}/dry-run`);
    expect(dry.body).to.deep.include({ holds: true, why: null });
    expect(dry.body.pixels).to.be.greaterThan(1000);
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

  it('has the log of its own newest render, as far as it is', async () => {
    await until('it is rendered', async () => (await dusting.shot(CODE)).renders[0].state === 'done', 60);
    const [own] = await allLogs();
    const [render] = (await dusting.shot(CODE)).renders;
    expect(own).to.include({ id: -render.id, format: 'Dusting', name: 'our preview render', closed: true, brokeOff: null, unread: 0 }); // prettier-ignore
    expect(own.rays).to.deep.equal({ all: render.rays });
    expect(own.frames.map(({ frame }) => frame)).to.deep.equal([1]);
    expect(own.memory!.peak).to.be.greaterThan(1e7);
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

  it('finds missing files among what is brought in, by name and by checksum, as a version that can be undone', async () => {
    const { head } = await dusting.shot('LOST-1');
    const geometry = filesOf(await smallShot('X')).find(([path]) => path.endsWith('.glb'))![1] as Uint8Array;
    const label = writePng(1, 1, Uint8Array.of(9, 9, 9));
    const sums = `${sha256(geometry)}  geometry/lost.glb\n`;
    const bring = (files: [string, Uint8Array | string][], base = head.id) =>
      dusting.send<BroughtFiles>(files, `/shots/LOST-1/files?base=${base}`);
    const unclear = await bring([['a/label.png', label], ['b/label.png', writePng(1, 1, Uint8Array.of(1, 1, 1))]]); // prettier-ignore
    expect([unclear.status, unclear.body.error]).to.deep.equal([409, 'Nothing was taken of 2 files: textures/label.png could be a/label.png or b/label.png.']); // prettier-ignore
    const { body } = await bring([['old/Label.png', label], ['moved/panes-2.glb', geometry], ['SHA256SUMS', sums]]); // prettier-ignore
    expect(body.found).to.deep.equal([
      { path: 'geometry/lost.glb', from: 'moved/panes-2.glb', by: 'checksum' },
      { path: 'textures/label.png', from: 'old/Label.png', by: 'name' },
    ]);
    const brought = await dusting.shot('LOST-1');
    expect(brought.head.reason).to.equal('Imported geometry/lost.glb, textures/label.png');
    await until('it is checked', async () => (await dusting.shot('LOST-1')).preflight?.state === 'done', 60);
    const now = (await dusting.get<Intake>('/shots/LOST-1/intake')).body;
    expect(now.files.filter(({ state }) => state !== 'ok')).to.deep.equal([]);
    expect((await bring([['textures/label.png', label]])).status, 'the shot has moved on').to.equal(409);
    const newer = await bring([['shot/textures/label.png', writePng(1, 1, Uint8Array.of(200, 9, 9))]], brought.head.id);
    expect(newer.body.replaced).to.deep.equal(['textures/label.png']);
    await dusting.post('/shots/LOST-1/undo', { base: (await dusting.shot('LOST-1')).head.id });
    expect((await dusting.shot('LOST-1')).head.number).to.equal(brought.head.number);
  });

  it('holds a shot against the profile of its show and a target, and checks it again when they change', async () => {
    const put = (kind: string, value: object) => dusting.post(`/profiles/${kind}`, { text: JSON.stringify(value) }, 'PUT'); // prettier-ignore
    const show = { schema: 'dusting.preflight/1', name: 'Halfmoon', width: 640, height: 360 };
    expect((await put('show', show)).body).to.deep.equal({ name: 'Halfmoon' });
    expect((await put('target', { schema: 'dusting.target/1', name: 'Heron' })).status, 'it ships').to.equal(409);
    const wrong = await put('show', { ...show, width: 'wide' });
    expect([wrong.status, wrong.body.problems[0].path]).to.deep.equal([400, '/width']);
    const choose = (chosen: object) => dusting.post(`/shots/${CODE}/profiles`, chosen);
    expect((await choose({ show: 'Nobody', target: null })).status).to.equal(404);
    expect((await choose({ show: 'Halfmoon', target: 'Plover' })).status).to.equal(204);
    await checked();
    const { fit, profile } = await intake();
    expect([profile, (await of('picture-size')).state]).to.deep.equal(['Halfmoon', 'stop']);
    expect(fit!.losses.map(({ id }) => id)).to.include.members(['surfaces', 'integrator']);
    const told = (await dusting.shot(CODE)).preflight!.told;
    expect(told[0]).to.deep.equal({ id: 'picture-size', state: 'stop', sentence: 'Resolution: 96 × 64 pixels.' });
    await put('show', { ...show, width: 96, height: 64 });
    await checked();
    expect((await of('picture-size')).state).to.equal('clear');
    // What the target makes of it can be tried, and what can be mended for it is a version.
    const { values } = fit!.losses.find(({ id }) => id === 'surfaces')!;
    const trial = await dusting.post(`/shots/${CODE}/trials`, { finding: null, remedy: null, region: null, sheet: 'preview', values, title: 'As Plover has it' }); // prettier-ignore
    expect(trial.status).to.equal(201);
    const state = async () => (await dusting.shot(CODE)).trials.at(-1)!;
    await until('the trial is measured', async () => (await state()).state === 'done', 90);
    expect((await state()).title).to.equal('As Plover has it');
    expect((await dusting.post('/profiles/show/Halfmoon', {}, 'DELETE')).status).to.equal(204);
    await checked();
    expect((await intake()).profile).to.equal('No show');
  });

  it('holds it against the last that was chosen, however quickly they follow each other', async () => {
    const { run } = (await dusting.shot(CODE)).preflight!;
    const chosen = ['Plover', 'Heron', 'Millrace', 'Plover', 'Heron', 'Millrace', 'Heron'];
    // A check that is under way when another one is chosen must not have the last word.
    for (const target of chosen) {
      expect((await dusting.post(`/shots/${CODE}/profiles`, { show: null, target })).status).to.equal(204);
      await new Promise((resolve) => setTimeout(resolve, 25));
    }
    await checked();
    expect((await intake()).fit!.target).to.equal('Heron');
    expect((await dusting.shot(CODE)).preflight!.run, 'pages see that it was made anew').to.equal(run + chosen.length);
    await dusting.post(`/shots/${CODE}/profiles`, { show: null, target: null });
    await checked();
  });

  it('shows what a file does that does not arrive, and keeps nothing of that', async () => {
    const values = { '/meshes/pane/file': 'lost/panes.glb' };
    await dusting.post(`/shots/${CODE}/trials`, { finding: null, remedy: null, region: null, sheet: 'preview', values, title: 'Without the panes' }); // prettier-ignore
    const state = async () => (await dusting.shot(CODE)).trials.at(-1)!;
    await until('the trial is measured', async () => (await state()).state === 'done', 90);
    const { id, beforeRenderId, afterRenderId } = await state();
    const [before, after] = [await dusting.bits(beforeRenderId!, 'crossings'), await dusting.bits(afterRenderId!, 'crossings')]; // prettier-ignore
    const most = (bits: Map<string, Buffer>) => Math.max(...new Float32Array([...bits.values()][0].buffer as ArrayBuffer)); // prettier-ignore
    expect([most(before) > 0, most(after)]).to.deep.equal([true, 0]);
    const kept = await dusting.post(`/trials/${id}/keep`, { both: false });
    expect([kept.status, kept.body.error]).to.deep.equal([409, `Trial ${(await state()).number} shows what a missing file does: there is nothing to keep.`]); // prettier-ignore
  });

  it('reads a log again by another format, with statistics that came beside it', async () => {
    const text = Array.from({ length: 20 }, (_, i) => `${i % 5 ? 'ok' : 'hm'} | step ${i}`).join('\n');
    await sendLog('strange.log', text);
    const [log] = await logs();
    expect([log.format, log.seconds, log.sample.length]).to.deep.equal(['Plain text', null, 20]);
    const format = { schema: 'dusting.log-format/1', name: 'Strange', lines: ['^(?<severity>ok|hm) \\| (?<message>.*)$'], severities: { ok: 'info', hm: 'warning' }, time: 'seconds', memoryUnit: 1, closing: 'step 19' }; // prettier-ignore
    expect((await dusting.post('/profiles/log-format', { text: JSON.stringify(format) }, 'PUT')).status).to.equal(200);
    expect((await dusting.post(`/logs/${log.id}/format`, { format: 'Strange' })).status).to.equal(204);
    const again = (await logs())[0];
    expect([again.format, again.kinds.reduce((n, { count }) => n + count, 0), again.brokeOff]).to.deep.equal(['Strange', 4, null]); // prettier-ignore
    const send = (body: string) => fetch(`${dusting.address}/api/logs/${log.id}/statistics?name=s.csv`, { method: 'POST', body }); // prettier-ignore
    expect((await send('frame,minutes\n1,2')).status).to.equal(400);
    expect((await send('frame,seconds,peak_memory_mb\n1001,60,512\n1002,90,1024')).status).to.equal(204);
    const filled = (await logs())[0];
    expect([filled.seconds, filled.memory!.peak, filled.frames.length]).to.deep.equal([150, 2 ** 30, 2]);
    await fetch(`${dusting.address}/api/logs/${log.id}`, { method: 'DELETE' });
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
