/** The application's processes: one that answers the page and one that renders, and the demo shots. */
import { join } from 'node:path';
import process from 'node:process';
import { setTimeout as sleep } from 'node:timers/promises';
import { attemptMeanwhile, startApart } from './command.mjs';
import { addressOf } from './address.mjs';
import { rotateRegularly } from './logs.mjs';
import { root } from './machine.mjs';
import { CannotGoOn, say } from './say.mjs';
import { supervise } from './supervise.mjs';

/** How to run each part: built, or straight from its source. */
export const builtParts = {
  server: [join(root, 'dist/server/main.mjs')],
  worker: [join(root, 'dist/server/worker.mjs')],
  seed: [join(root, 'dist/server/seed.mjs')],
};
const source = (file) => ['--import', '@oxc-node/core/register', '--enable-source-maps', join(root, file)];
export const sourceParts = {
  server: source('server/main.ts'),
  worker: source('server/worker.ts'),
  seed: source('demo/seed.ts'),
};

/** A demo shot that cannot be brought in is tried again so often: the server may just have been begun again. */
const SEED_TRIES = 3;

/**
 * @param parts `builtParts` or `sourceParts`
 * @param env DUSTING_… variables for the processes
 * @param onDeath called with a sentence when a process ends too often to be begun again
 */
export async function startApplication(parts, env, logs, onDeath) {
  const options = {
    cwd: root,
    env: { ...process.env, NODE_ENV: 'production', DUSTING_TIED: String(process.pid), ...env },
  };
  const logOf = (name) => join(logs, `${name}.log`);
  rotateRegularly(['server', 'worker'].map(logOf));
  const start = (name) => startApart(process.execPath, parts[name], { ...options, logFile: logOf(name) });
  const server = supervise('The server', () => start('server'), logOf('server'), onDeath);
  let worker = null;
  const stop = async () => {
    await worker?.stop();
    await server.stop();
  };
  try {
    await healthy(env.DUSTING_HOST, env.DUSTING_PORT, server, logs);
    worker = supervise('The render worker', () => start('worker'), logOf('worker'), onDeath);
    await seed(parts, options);
  } catch (error) {
    await stop();
    throw error;
  }
  return { stop };
}

async function seed(parts, options) {
  for (let left = SEED_TRIES; ; left--) {
    const { ok, out } = await attemptMeanwhile(process.execPath, parts.seed, options);
    if (ok) {
      if (out) say(out);
      return;
    }
    if (left <= 1) throw new CannotGoOn(`The demo shots could not be brought in:\n${out}`);
    await sleep(1000);
  }
}

async function healthy(host, port, server, logs) {
  const why = `see ${join(logs, 'server.log')}.`;
  for (let tries = 0; tries < 300; tries++) {
    // What ends so soon would end again: the address is taken, or a setting is wrong.
    if (server.child().exitCode !== null && tries < 50) throw new CannotGoOn(`The server did not start; ${why}`);
    try {
      if ((await fetch(`http://${addressOf(host)}:${port}/api/health`)).ok) return;
    } catch {
      // Not listening yet.
    }
    await sleep(100);
  }
  throw new CannotGoOn(`The server did not answer within 30 s; ${why}`);
}
