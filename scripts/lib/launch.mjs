/** What `npm start` and `npm run dev` share: database up, application up, and all of it down again in order. */
import process from 'node:process';
import { setTimeout as sleep } from 'node:timers/promises';
import { startApplication } from './application.mjs';
import { clusterFolder, portTaken, startCluster } from './cluster.mjs';
import { claimDataFolder } from './data-folder.mjs';
import { needPostgres } from './machine.mjs';
import { needTokenBeyondLoopback } from './network.mjs';
import { CannotGoOn, say } from './say.mjs';

/** How long each part may take to stop before the next is stopped all the same. */
const PATIENCE_MS = 12_000;

/**
 * @param parts which processes to run, see `application.mjs`
 * @param beside started last and stopped first: `(host, port) => { stop }`
 */
export async function launch(parts, port, beside = null) {
  const host = process.env.DUSTING_HOST || '127.0.0.1';
  if (!/^\d+$/.test(String(port)) || port < 1 || port > 65535)
    throw new CannotGoOn(`DUSTING_PORT is "${port}"; it must be a number from 1 to 65535.`);
  needTokenBeyondLoopback(host);
  const postgres = needPostgres();
  const data = await claimDataFolder();
  const started = [{ stop: data.release }];
  let stopping = false;
  const stopAll = async () => {
    if (stopping) return;
    stopping = true;
    say('\nStopping …');
    while (started.length) await Promise.race([started.pop().stop(), sleep(PATIENCE_MS)]);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
    process.on(signal, () => void stopAll().then(() => process.exit(0)));
  try {
    if (await portTaken(host, port))
      throw new CannotGoOn(`Port ${port} on ${host} is in use. Stop what uses it, or name another in DUSTING_PORT.`);
    const cluster = await startCluster(postgres, clusterFolder(data.folder));
    started.push(cluster);
    const env = {
      DUSTING_HOST: host,
      DUSTING_PORT: String(port),
      DUSTING_DATA: data.folder,
      DUSTING_DATABASE_URL: cluster.url,
    };
    const died = async (why) => {
      say(why);
      await stopAll();
      process.exit(1);
    };
    started.push(cluster.watch(died));
    started.push(await startApplication(parts, env, data.logs, died));
    if (beside) started.push(await beside(host, port));
  } catch (error) {
    await stopAll();
    throw error;
  }
}
