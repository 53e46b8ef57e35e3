/** The web process: the interface over HTTP, and the page. It renders nothing itself. */
import { createServer } from 'node:http';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { BlobStore } from './blobs.ts';
import { config } from './config.ts';
import type { Context } from './context.ts';
import { connect, migrateDatabase } from './db/database.ts';
import { createApp } from './http/app.ts';
import { EventHub } from './http/events.ts';
import { log } from './log.ts';
import { listen, SHOT_CHANNEL } from './notify.ts';
import { Queue } from './queue.ts';
import { completeStored } from './shots/complete-stored.ts';
import { endWithParent } from './tied.ts';

endWithParent();
await migrateDatabase(config.databaseUrl);
const { db, pool } = connect(config.databaseUrl);
await completeStored(db);
const context: Context = {
  db,
  blobs: new BlobStore(join(config.data, 'blobs')),
  queue: new Queue(config.databaseUrl),
};
await context.queue.start();

const hub = new EventHub();
const changes = listen(config.databaseUrl, SHOT_CHANNEL, () => hub.changed());
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
  server.close();
  server.closeIdleConnections();
  await Promise.allSettled([changes.stop(), context.queue.stop()]);
  await pool.end();
  clearTimeout(force);
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
