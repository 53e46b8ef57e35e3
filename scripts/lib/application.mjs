/** The application's processes: one that answers the page and one that renders, and the demo shots. */
import { join } from 'node:path';
import process from 'node:process';
import { setTimeout as sleep } from 'node:timers/promises';
import { attempt, startApart, stopChild } from './command.mjs';
import { root } from './machine.mjs';
import { CannotGoOn, say } from './say.mjs';

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

/**
 * @param parts `builtParts` or `sourceParts`
 * @param env DUSTING_… variables for the processes
 * @param onDeath called with a sentence when the server ends by itself; a worker is started again
 */
export async function startApplication(parts, env, logs, onDeath) {
  const options = {
    cwd: root,
    env: { ...process.env, NODE_ENV: 'production', DUSTING_TIED: String(process.pid), ...env },
  };
  let stopping = false;
  const start = (name, died) => {
    const child = startApart(process.execPath, parts[name], {
      ...options,
      logFile: join(logs, `${name}.log`),
    });
    child.once('exit', (code, signal) => stopping || died(signal ?? code));
    return child;
  };
  const server = start('server', (how) => onDeath(`The server ended (${how}); see ${join(logs, 'server.log')}.`));
  let worker;
  const startWorker = () => {
    worker = start('worker', async (how) => {
      say(`The render worker ended (${how}) and is started again; see ${join(logs, 'worker.log')}.`);
      await sleep(1000);
      if (!stopping) startWorker();
    });
  };
  await healthy(env.DUSTING_HOST, env.DUSTING_PORT, server, logs);
  startWorker();
  const seeded = attempt(process.execPath, parts.seed, options);
  if (!seeded.ok) throw new CannotGoOn(`The demo shots could not be brought in:\n${seeded.out}`);
  if (seeded.out) say(seeded.out);
  return {
    stop: async () => {
      stopping = true;
      await stopChild(worker);
      await stopChild(server);
    },
  };
}

async function healthy(host, port, server, logs) {
  for (let tries = 0; tries < 300; tries++) {
    if (server.exitCode !== null)
      throw new CannotGoOn(`The server did not start; ${join(logs, 'server.log')} says why.`);
    try {
      if ((await fetch(`http://${host}:${port}/api/health`)).ok) return;
    } catch {
      // Not listening yet.
    }
    await sleep(100);
  }
  throw new CannotGoOn(`The server did not answer within 30 s; see ${join(logs, 'server.log')}.`);
}
