/** The start command as a person meets it: a fresh folder, a second start, and what can stand in its way. */
import { expect } from 'chai';
import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { freePort } from '../../scripts/lib/cluster.mjs';
import { demoShots } from '../../demo/shots.ts';
import { until } from './harness.ts';

const ROOT = join(import.meta.dirname, '../..');

interface Run {
  child: ChildProcess;
  out: () => string;
  ended: Promise<number | null>;
}

describe('npm start', function () {
  this.timeout(180_000);
  let folder: string;
  let port: number;
  const running: Run[] = [];

  function start(env: Record<string, string> = {}): Run {
    let text = '';
    const child = spawn(process.execPath, ['scripts/start.mjs'], {
      cwd: ROOT,
      env: { ...process.env, DUSTING_DATA: folder, DUSTING_PORT: String(port), ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    child.stdout!.on('data', (chunk: Buffer) => (text += chunk.toString()));
    child.stderr!.on('data', (chunk: Buffer) => (text += chunk.toString()));
    const ended = new Promise<number | null>((resolve) => child.once('exit', (code) => resolve(code)));
    const run = { child, out: () => text, ended };
    running.push(run);
    return run;
  }

  const up = (run: Run) =>
    until(
      'the address is printed',
      async () => {
        if (run.child.exitCode !== null) throw new Error(`it ended: ${run.out()}`);
        return run.out().includes('Dusting is at');
      },
      120,
    );
  /** Whether a process runs; one that ended and was not yet fetched by its parent does not. */
  const alive = async (pid: number) => {
    const stat = await readFile(`/proc/${pid}/stat`, 'utf8').catch(() => '');
    return stat !== '' && !/\) Z /.test(stat);
  };
  const databasePid = async () =>
    Number((await readFile(join(folder, 'database/data/postmaster.pid'), 'utf8')).split('\n')[0]);

  before(async () => {
    folder = await mkdtemp(join(tmpdir(), 'dusting-start-'));
    // The user that the database runs as must be able to come in.
    await import('node:fs/promises').then((fs) => fs.chmod(folder, 0o755));
    port = await freePort();
  });
  after(async () => {
    for (const run of running) if (run.child.exitCode === null) run.child.kill('SIGINT');
    await Promise.all(running.map((run) => run.ended));
    await rm(folder, { recursive: true, force: true });
  });

  it('repairs a database that a killed first run left half made, and brings the demo in', async () => {
    await mkdir(join(folder, 'database/data'), { recursive: true });
    await writeFile(join(folder, 'database/data/PG_VERSION'), '');
    const run = start();
    await up(run);
    expect(run.out()).to.match(/was not finished; it is made anew/);
    expect(run.out()).to.match(/Demo shot HA-010, jar shelf, came in/);
    expect(existsSync(join(folder, 'demo/HA-010/shot.json'))).to.equal(true);
    const address = `http://127.0.0.1:${port}`;
    expect(await (await fetch(`${address}/api/health`)).json()).to.deep.equal({ status: 'ok' });
    expect(((await (await fetch(`${address}/api/shots`)).json()) as { code: string }[])[0].code).to.equal('HA-010');
    const page = await fetch(`${address}/shots/HA-010`);
    expect(await page.text()).to.include('<div id="app">');
    expect(page.headers.get('cross-origin-opener-policy')).to.equal('same-origin');
    expect(page.headers.get('cross-origin-embedder-policy')).to.equal('require-corp');
  });

  it('says who is using the data folder, and that a port is taken', async () => {
    const [first] = running;
    const second = start({ DUSTING_PORT: String(await freePort()) });
    expect(await second.ended).to.equal(1);
    expect(second.out()).to.include(`Process ${first.child.pid} is running Dusting on ${folder} already`);
  });

  it('stops everything it started on Ctrl-C, in order, and is up again within 10 s', async () => {
    const [first] = running;
    const database = await databasePid();
    first.child.kill('SIGINT');
    expect(await first.ended).to.equal(0);
    await until('the database has ended', async () => !(await alive(database)), 5);
    expect(existsSync(join(folder, 'running'))).to.equal(false);
    const started = Date.now();
    const again = start();
    await up(again);
    console.log(`      (second start: ${((Date.now() - started) / 1000).toFixed(1)} s)`);
    expect(again.out()).to.not.match(/came in|Installing|Building/);
    const shots = (await (await fetch(`http://127.0.0.1:${port}/api/shots`)).json()) as unknown[];
    expect(shots).to.have.length(Object.keys(demoShots).length);
  });

  it('leaves nothing behind when it is killed, and takes its database over at the next start', async () => {
    const last = running.at(-1)!;
    const database = await databasePid();
    last.child.kill('SIGKILL');
    await last.ended;
    await until(
      'server and worker end with it',
      async () => (await fetch(`http://127.0.0.1:${port}/api/health`).catch(() => null)) === null,
      15,
    );
    expect(await alive(database), 'the database has nobody to stop it').to.equal(true);
    const again = start();
    await up(again);
    expect(again.out()).to.match(/earlier run that was killed is still running; it is stopped and started again/);
    again.child.kill('SIGINT');
    expect(await again.ended).to.equal(0);
  });

  it('names a port that is in use, a port that is none, and a folder that cannot be made', async () => {
    const taken = createServer();
    await new Promise<void>((resolve) => taken.listen(port, '127.0.0.1', resolve));
    const busy = start();
    expect(await busy.ended).to.equal(1);
    expect(busy.out()).to.include(`Port ${port} on 127.0.0.1 is in use`);
    await new Promise((resolve) => taken.close(resolve));
    const none = start({ DUSTING_PORT: 'http' });
    expect(await none.ended).to.equal(1);
    expect(none.out()).to.include('DUSTING_PORT is "http"; it must be a number');
    const nowhere = start({ DUSTING_DATA: '/etc/hostname/below-a-file' });
    expect(await nowhere.ended).to.equal(1);
    expect(nowhere.out()).to.match(/data folder .* cannot be written \(ENOTDIR\)/);
    await sleep(50);
  });
});
