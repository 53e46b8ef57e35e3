/** The folder that holds all a Dusting keeps, and which Dusting is using it. */
import { createHash } from 'node:crypto';
import { accessSync, constants, mkdirSync, readFileSync, realpathSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join, resolve } from 'node:path';
import process from 'node:process';
import { root } from './machine.mjs';
import { CannotGoOn } from './say.mjs';

/**
 * Makes sure the folder is there, can be written, and is nobody else's at the moment. Whoever has it holds a socket that
 * is named after it: the system gives that to one process alone, and takes it back when the process ends, however it
 * does. A file with a process number in it would be neither: two starts can find the same stale one, and numbers are
 * used again. The file says who it is, no more.
 * @returns {Promise<{ folder: string, logs: string, release: () => Promise<void> }>}
 */
export async function claimDataFolder() {
  const wanted = resolve(process.env.DUSTING_DATA || join(root, '.dusting'));
  try {
    mkdirSync(join(wanted, 'logs'), { recursive: true });
    accessSync(wanted, constants.W_OK);
  } catch (error) {
    throw new CannotGoOn(
      `The data folder ${wanted} cannot be written (${error.code}). Name another one in DUSTING_DATA.`,
    );
  }
  const folder = realpathSync(wanted);
  const claim = join(folder, 'running');
  const holder = await hold(`\0dusting-${createHash('sha256').update(folder).digest('hex').slice(0, 40)}`);
  if (!holder) {
    const owner = attemptRead(claim);
    throw new CannotGoOn(
      `${owner ? `Process ${owner}` : 'Another process'} is running Dusting on ${folder} already. Stop it, or name another folder in DUSTING_DATA.`,
    );
  }
  writeFileSync(claim, String(process.pid));
  const release = () => {
    rmSync(claim, { force: true });
    return new Promise((done) => holder.close(done));
  };
  return { folder, logs: join(folder, 'logs'), release };
}

/** Listens on a name of Linux's abstract sockets; null where somebody else does. */
function hold(name) {
  return new Promise((done, fail) => {
    const server = createServer((socket) => socket.destroy());
    server.once('error', (error) => (error.code === 'EADDRINUSE' ? done(null) : fail(error)));
    server.listen({ path: name }, () => done(server.unref()));
  });
}

function attemptRead(path) {
  try {
    return readFileSync(path, 'utf8').trim();
  } catch {
    return '';
  }
}
