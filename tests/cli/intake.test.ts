/** Preflight, files and logs through the shell. Packages are read back by Debian's own unzip and sha256sum. */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { expect } from 'chai';
import { filesCommand } from '../../cli/files.ts';
import { logCommand } from '../../cli/log.ts';
import { preflightCommand } from '../../cli/preflight.ts';
import { targetCommand } from '../../cli/target.ts';
import { renderCommand } from '../../cli/render.ts';
import { smallShot } from '../api/small-shot.ts';
import { captured } from './captured.ts';

const folder = mkdtempSync(join(tmpdir(), 'dusting-intake-'));
const at = (path: string) => join(folder, path);
const put = (path: string, content: string | Uint8Array) => {
  mkdirSync(dirname(at(path)), { recursive: true });
  writeFileSync(at(path), content);
};
async function run<T>(
  command: (args: string[]) => Promise<number>,
  ...args: string[]
): Promise<{ code: number; out: T }> {
  let code = -1;
  const out = await captured(async () => (code = await command([...args, '--json'])));
  return { code, out: JSON.parse(out) as T };
}

interface Report {
  checks: { id: string; state: string; expected: string; found: string; offenders: { object: string; detail: string; count: number }[]; repair: unknown }[];
} // prettier-ignore

describe('dusting preflight, files and log', function () {
  this.timeout(60_000);
  before(async () => {
    const { document, files } = await smallShot('INTAKE', { samples: 16 });
    put('shot/shot.json', JSON.stringify(document));
    for (const [path, bytes] of files) put(`shot/${path}`, bytes);
  });
  after(() => rmSync(folder, { recursive: true, force: true }));

  it('tell a scene that must not be sent by its exit code and its offenders', async () => {
    put('yard/yard.obj', 'mtllib yard.mtl\no hive\nv 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nvt 0 0\nusemtl straw\nf 1/1 2/1 3/1\nf 1/1 2/1 3/1\nusemtl gone\nf 1/1 2/1 4/1\n'); // prettier-ignore
    put('yard/yard.mtl', 'newmtl straw\nKd 0.5 0.4 0.1\nmap_Kd /show/straw.png\n');
    const { code, out } = await run<Report>(preflightCommand, at('yard/yard.obj'));
    expect(code).to.equal(4);
    const of = (id: string) => out.checks.find((check) => check.id === id)!;
    expect(of('texture-missing')).to.deep.include({ state: 'stop', offenders: [{ object: '/show/straw.png', detail: 'named by yard.mtl:3', count: 1 }] }); // prettier-ignore
    expect(of('file-absolute').state).to.equal('caution');
    expect(of('duplicate-face').offenders[0]).to.include({ object: '/hive', count: 1 });
    expect(of('material-missing').offenders[0].detail).to.match(/"gone", which is not there/);
    expect(of('camera-count')).to.include({ state: 'stop', expected: 'at least 1', found: '0' });
    expect(of('sheet-drift')).to.include({ state: 'not-run', found: 'the scene has no sheets of ours' });
  });

  it('go by the show’s profile, and write reports that read well', async () => {
    put('show.json', JSON.stringify({ schema: 'dusting.preflight/1', name: 'Halfmoon', width: 96, height: 64, off: ['environment-missing'], thresholds: { 'object-count': { caution: 1, stop: null } } })); // prettier-ignore
    const { out } = await run<Report>(
      preflightCommand,
      at('shot'),
      '--profile',
      at('show.json'),
      '--report',
      at('r.html'),
    );
    const of = (id: string) => out.checks.find((check) => check.id === id)!;
    expect(of('picture-size').state).to.equal('clear');
    expect(of('environment-missing')).to.include({ state: 'not-run', found: 'the profile does without it' });
    expect(of('object-count').state).to.equal('caution');
    expect(readFileSync(at('r.html'), 'utf8'))
      .to.match(/Preflight of .*shot: (caution|stop)/)
      .and.match(/Halfmoon/);
    put('bad.json', JSON.stringify({ schema: 'dusting.preflight/1', widht: 3 }));
    const refused = await preflightCommand([at('shot'), '--profile', at('bad.json')]).then(() => '', (e: Error) => e.message); // prettier-ignore
    expect(refused).to.match(/\/widht is there, expected no such key/);
  });

  it('list every file with who needs it, and pack a shot that opens alone, bit for bit', async () => {
    const { code, out } = await run<{
      files: { path: string; neededBy: string[]; state: string; bytes: number }[];
      totalBytes: number;
      dryRun: { holds: boolean; pixels: number };
    }>(filesCommand, at('shot'), '--package', at('out.zip'), '--dry-run');
    expect(code).to.equal(0);
    expect(out.files.every(({ state }) => state === 'ok')).to.equal(true);
    expect(out.totalBytes).to.equal(out.files.reduce((sum, { bytes }) => sum + bytes, 0));
    expect(out.dryRun).to.deep.include({ holds: true, why: null });
    mkdirSync(at('unpacked'));
    execFileSync('unzip', ['-q', at('out.zip'), '-d', at('unpacked')]);
    execFileSync('sha256sum', ['-c', '--strict', '--quiet', 'SHA256SUMS'], { cwd: at('unpacked') });
    expect(existsSync(at('unpacked/shot.json'))).to.equal(true);
  });

  it('carry repairs out into a folder of their own, and leave the shot as it is', async () => {
    const before = readFileSync(at('shot/shot.json'), 'utf8');
    const document = JSON.parse(before);
    document.sheets.final.limits.transmission = 9;
    document.objects.pane0.transform = [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
    put('faulty/shot.json', JSON.stringify(document));
    put('faulty/geometry/panes.glb', readFileSync(at('shot/geometry/panes.glb')));
    const { out } = await run<Report & { repaired: { id: string }[] }>(preflightCommand, at('faulty'), '--repair', 'all', '--out', at('mended')); // prettier-ignore
    expect(out.repaired.map(({ id }) => id)).to.include.members(['transform-negative', 'sheet-drift']);
    expect(out.checks.filter(({ repair }) => repair)).to.deep.equal([]);
    expect(readFileSync(at('faulty/shot.json'), 'utf8')).to.equal(JSON.stringify(document));
    const again = await preflightCommand([at('faulty'), '--repair', 'all', '--out', at('mended')]).then(() => '', (e: Error) => e.message); // prettier-ignore
    expect(again).to.match(/mended" is there already and not empty/);
    const unknown = await preflightCommand([at('faulty'), '--repair', 'nothing', '--out', at('x')]).then(() => '', (e: Error) => e.message); // prettier-ignore
    expect(unknown).to.equal('There is no check "nothing".');
  });

  it('tell what a renderer does not do, by a target that ships or one of one’s own', async () => {
    const heron = await run<{ losses: { id: string }[]; dials: { name: string; value: string }[] }>(targetCommand, at('shot'), '--target', 'heron'); // prettier-ignore
    expect(heron.out.dials.find(({ name }) => name === 'camera paths')!.value).to.equal('64');
    put('tern.json', JSON.stringify({ schema: 'dusting.target/1', name: 'Tern', surfaces: { without: ['transmission'] } })); // prettier-ignore
    const tern = await run<{ losses: { id: string; items: { object: string }[] }[] }>(targetCommand, at('shot'), '--target', at('tern.json')); // prettier-ignore
    expect(tern.code).to.equal(3);
    expect(tern.out.losses.map(({ id, items }) => [id, items.map(({ object }) => object)])).to.deep.equal([['surfaces', ['/materials/glass']]]); // prettier-ignore
    put('able.json', JSON.stringify({ schema: 'dusting.target/1', name: 'Able' }));
    expect((await run(targetCommand, at('shot'), '--target', at('able.json'))).code).to.equal(0);
    const refused = await targetCommand([at('shot'), '--target', 'nobody']).then(
      () => '',
      (e: Error) => e.message,
    );
    expect(refused).to.equal('There is no target and no file "nobody".');
  });

  it('stop at files that are missing, and make no package of them', async () => {
    const document = JSON.parse(readFileSync(at('shot/shot.json'), 'utf8'));
    const [mesh] = Object.values(document.meshes) as { file: string }[];
    mesh.file = 'geometry/gone.glb';
    put('broken/shot.json', JSON.stringify(document));
    const { code, out } = await run<{ files: { path: string; state: string }[] }>(filesCommand, at('broken'));
    expect(code).to.equal(4);
    expect(out.files.find(({ path }) => path === 'geometry/gone.glb')!.state).to.equal('missing');
    const refused = await filesCommand([at('broken'), '--package', at('no.zip')]).then(() => '', (e: Error) => e.message); // prettier-ignore
    expect(refused).to.match(/the package lacks .*geometry\/gone\.glb/);
    expect(existsSync(at('no.zip'))).to.equal(false);
  });

  it('read the log of a render of ours: phases, rays, an end; and one that breaks off', async () => {
    await captured(() => renderCommand([at('shot'), '--out', at('out.exr'), '--log', at('ours.log'), '--json']));
    interface Log { format: string; closed: boolean; rays: Record<string, number>; seconds: number; state: string; brokeOff: { phase: string; cause: string } | null } // prettier-ignore
    const whole = await run<Log>(logCommand, at('ours.log'));
    expect(whole.out).to.include({ format: 'Dusting', closed: true, brokeOff: null });
    expect(whole.out.rays.camera).to.equal(96 * 64 * 16);
    put('cut.log', readFileSync(at('ours.log'), 'utf8').split('\n').slice(0, -2).join('\n'));
    const cut = await run<Log>(logCommand, at('cut.log'));
    expect(cut.code).to.equal(4);
    expect(cut.out.brokeOff!.phase).to.equal('render');
  });

  it('refuse with one sentence what they cannot use', async () => {
    const message = (command: (args: string[]) => Promise<number>, ...args: string[]) =>
      command(args).then(() => 'done', (e: Error) => e.message); // prettier-ignore
    put('empty.log', '');
    put('binary.log', new Uint8Array(64));
    expect(await message(logCommand, at('none.log'))).to.match(/There is no/);
    expect(await message(logCommand, at('empty.log'))).to.match(/is empty/);
    expect(await message(logCommand, at('binary.log'))).to.match(/is empty|is not text/);
    expect(await message(logCommand, folder)).to.match(/is no file/);
    expect(await message(filesCommand, at('yard/yard.obj'), '--package', at('x.zip'))).to.match(/dusting import/);
    expect(await message(preflightCommand, at('shot'), '--report', 'x.pdf')).to.match(/must end in/);
  });
});
