/** Whatever process dies, and whenever: all of it is back by itself, and what was being rendered has the bits it would have had. */
import { expect } from 'chai';
import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, truncateSync, writeFileSync } from 'node:fs';
import { chmod, mkdtemp, readFile, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import type { ShotState } from '../../core/contracts/events.ts';
import { unpackPicture } from '../../core/picture/planes.ts';
import { freePort } from '../../scripts/lib/cluster.mjs';
import { rotate } from '../../scripts/lib/logs.mjs';
import { direct, expectSame } from './direct-render.ts';
import { until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

const ROOT = join(import.meta.dirname, '../..');
const isWhole = process.env.DUSTING_VERIFY === 'full';
/** Processes that are killed, and how many of them are the database. */
const KILLS = isWhole ? 220 : 3;
const DATABASE_EVERY = isWhole ? 11 : 3;
const SAMPLES = isWhole ? 8192 : 512;
/** Seconds until all answers again. */
const LONGEST = isWhole ? 5 : 15;

describe('whatever dies', function () {
  this.timeout(isWhole ? 3600_000 : 240_000);
  let folder: string;
  let port: number;
  const children: ChildProcess[] = [];

  function start(more: Record<string, string> = {}) {
    let text = '';
    const env = { ...process.env, DUSTING_DATA: folder, DUSTING_PORT: String(port), DUSTING_DEMO: 'none', ...more };
    const child = spawn(process.execPath, ['scripts/start.mjs'], { cwd: ROOT, env, stdio: ['ignore', 'pipe', 'pipe'] });
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (piece: Buffer) => (text += piece.toString()));
    children.push(child);
    const ended = new Promise<number | null>((resolve) => child.once('exit', resolve));
    return { child, ended, out: () => text, isUp: () => text.includes('Dusting is at') };
  }

  before(async () => {
    folder = await mkdtemp(join(tmpdir(), 'dusting-kept-'));
    await chmod(folder, 0o755);
    port = await freePort();
  });
  after(async () => {
    for (const child of children) {
      if (child.exitCode !== null || child.signalCode !== null) continue;
      const ended = new Promise((resolve) => child.once('exit', resolve));
      child.kill('SIGINT');
      await ended;
    }
    await rm(folder, { recursive: true, force: true });
  });

  it('of two starts at the same moment exactly one wins, and the other touches nothing', async () => {
    const starts = [start(), start({ DUSTING_PORT: String(await freePort()) })];
    const losers = await Promise.race([
      Promise.any(starts.map(async (one) => ((await one.ended) === null ? Promise.reject(new Error()) : one))),
      sleep(60_000).then(() => null),
    ]);
    expect(losers?.child.exitCode, 'the loser says so').to.equal(1);
    expect(losers!.out()).to.match(/is running Dusting on .* already\. Stop it, or name another folder/);
    const winner = starts.find((one) => one !== losers)!;
    await until('the winner is up', async () => winner.isUp(), 90);
    const third = start({ DUSTING_PORT: String(await freePort()) });
    expect(await third.ended).to.equal(1);
    expect(third.out()).to.include(`Process ${winner.child.pid} is running Dusting`);
    expect(await readFile(join(folder, 'running'), 'utf8')).to.equal(String(winner.child.pid));
    expect(winner.child.exitCode).to.equal(null);
    if (!winner.out().includes(`:${port}/`)) port = Number(/127\.0\.0\.1:(\d+)\//.exec(winner.out())![1]);
  });

  it('is begun again: server, worker and database, while a shot renders to the bits it would have had', async () => {
    const starter = children.find((child) => child.exitCode === null)!;
    const address = `http://127.0.0.1:${port}/api`;
    const shot = await smallShot('KEPT-1', { samples: SAMPLES });
    const form = new FormData();
    for (const [path, bytes] of filesOf(shot)) form.append('files', new Blob([bytes as Uint8Array<ArrayBuffer>]), path);
    expect((await fetch(`${address}/shots`, { method: 'POST', body: form })).status).to.equal(201);
    const state = async () => (await (await fetch(`${address}/shots/KEPT-1`)).json()) as ShotState;
    const isBack = async () => {
      const health = await fetch(`${address}/health`).catch(() => null);
      return health?.ok === true && pidOf(starter.pid!, 'worker.mjs') !== null;
    };
    await until('the worker renders', async () => (await state()).renders[0].samplesDone > 0);
    const database = () => Number(readFileSync(join(folder, 'database/data/postmaster.pid'), 'utf8').split('\n')[0]);
    const times: Record<string, number[]> = { 'main.mjs': [], 'worker.mjs': [], database: [] };
    for (let i = 0; i < KILLS; i++) {
      const what = i % DATABASE_EVERY === DATABASE_EVERY - 1 ? 'database' : i % 2 ? 'main.mjs' : 'worker.mjs';
      const pid = what === 'database' ? database() : pidOf(starter.pid!, what)!;
      process.kill(pid, 'SIGKILL');
      const killed = Date.now();
      await until('it is gone', async () => !isRunning(pid), 5);
      await until(`${what} is back`, isBack, 30);
      times[what].push((Date.now() - killed) / 1000);
      await sleep(500 + ((i * 373) % 900));
    }
    for (const [what, all] of Object.entries(times))
      console.log(`      (${what}: ${all.length} times, back after ${Math.max(...all).toFixed(1)} s at most)`);
    expect(Math.max(...Object.values(times).flat())).to.be.below(LONGEST);
    await until(
      'it is rendered',
      async () => (await state().catch(() => null))?.renders[0].state === 'done',
      isWhole ? 900 : 120,
    );
    const bytes = await (
      await fetch(`${address}/renders/1/picture?passes=beauty,cost,cut.any,error.beauty`)
    ).arrayBuffer();
    const bits = new Map(
      [...unpackPicture(bytes).picture.channels].map(([name, plane]) => [name, Buffer.from(plane.slice().buffer)]),
    );
    expectSame(await direct(shot, SAMPLES), bits, 'after all that');
    expect(starter.exitCode, 'nobody had to lend a hand').to.equal(null);
  });

  it('keeps logs from growing for ever', async () => {
    const file = join(folder, 'large.log');
    for (let i = 0; i < 6; i++) {
      await rm(file, { force: true });
      writeEmpty(file, 17 * 2 ** 20);
      rotate(file);
      expect((await stat(file)).size).to.equal(0);
    }
    expect(
      readdirSync(folder)
        .filter((name) => name.startsWith('large.log'))
        .sort(),
    ).to.deep.equal(['large.log', 'large.log.1', 'large.log.2', 'large.log.3']);
  });
});

function writeEmpty(file: string, bytes: number): void {
  writeFileSync(file, '');
  truncateSync(file, bytes);
}

/** A child of the starter that runs some file; null while there is none. */
function pidOf(parent: number, file: string): number | null {
  for (const entry of readdirSync('/proc')) {
    if (!/^\d+$/.test(entry) || !isRunning(Number(entry))) continue;
    try {
      const line = readFileSync(`/proc/${entry}/stat`, 'utf8');
      const ppid = Number(line.slice(line.lastIndexOf(')') + 2).split(' ')[1]);
      if (ppid === parent && readFileSync(`/proc/${entry}/cmdline`, 'utf8').includes(`server/${file}`))
        return Number(entry);
    } catch {
      // It ended while it was looked at.
    }
  }
  return null;
}

function isRunning(pid: number): boolean {
  if (!existsSync(`/proc/${pid}`)) return false;
  try {
    return !/\) Z /.test(readFileSync(`/proc/${pid}/stat`, 'utf8'));
  } catch {
    return false;
  }
}
