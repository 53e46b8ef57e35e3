/** The web process: the interface over HTTP, and the page. It renders nothing itself, and reads nothing foreign. */
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import { stopApart, warmUp } from './apart/apart.ts';
import { largeDocumentsApart } from './apart/documents.ts';
import { config } from './config.ts';
import { createContext } from './context.ts';
import { migrateDatabase } from './db/database.ts';
import { upgradeFindings } from './db/upgrade-findings.ts';
import { watchDisk } from './disk.ts';
import { createApp } from './http/app.ts';
import { EventHub } from './http/events.ts';
import { log } from './log.ts';
import { listen, SHOT_CHANNEL } from './notify.ts';
import { completeStored } from './versions/complete-stored.ts';
import { collectRegularly } from './storage/collect.ts';
import { endWithParent } from './tied.ts';
import { whenReached } from './when-reached.ts';

endWithParent();
await whenReached(() => migrateDatabase(config.databaseUrl));
const { context, pool } = await createContext(largeDocumentsApart);
await whenReached(() => completeStored(context.db));
await whenReached(() => upgradeFindings(context.db));
warmUp();

const hub = new EventHub();
const changes = listen(config.databaseUrl, SHOT_CHANNEL, (shot) =>
  // After a connection was lost anything may have changed.
  hub.changed(shot === null ? null : (topic) => topic === 'list' || topic === `shot ${shot}`),
);
const disk = watchDisk(context.blobs.folder, (notices) => hub.notify(notices));
const collecting = collectRegularly(context);
const web = fileURLToPath(new URL(import.meta.url.endsWith('.ts') ? '../dist/web' : '../web', import.meta.url));
const server = createServer(createApp(context, hub, web));
// An upload of gigabytes takes as long as it takes.
server.requestTimeout = 0;
// Longer than clients and proxies keep idle connections, so that none is closed as a request sets out.
server.keepAliveTimeout = 65_000;
server.on('error', (error) => {
  log.error({ error: String(error) }, `cannot listen on ${config.host}:${config.port}`);
  process.exit(1);
});
server.listen(config.port, config.host, () => log.info({ host: config.host, port: config.port }, 'server ready'));

let stopping = false;
async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  const force = setTimeout(() => process.exit(0), 4000);
  hub.close();
  disk.stop();
  collecting.stop();
  server.close();
  server.closeIdleConnections();
  await Promise.allSettled([changes.stop(), context.queue.stop(), stopApart()]);
  await pool.end();
  clearTimeout(force);
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
