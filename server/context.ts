/** What every part of the server works with, and how a process comes by it. */
import { join } from 'node:path';
import type pg from 'pg';
import type { DocumentWork } from './apart/documents.ts';
import { BlobStore } from './blobs.ts';
import { config } from './config.ts';
import { connect, type Database } from './db/database.ts';
import { MadeFiles } from './made-files.ts';
import { Queue } from './queue.ts';
import { whenReached } from './when-reached.ts';

export interface Context {
  db: Database;
  blobs: BlobStore;
  queue: Queue;
  documents: DocumentWork;
  made: MadeFiles;
}

/** Bytes of made files that are kept. */
const MADE_BYTES = 4 * 2 ** 30;

/** Connects; the queue begins with it. @param documents how whole documents are worked on in this process */
export async function createContext(documents: DocumentWork): Promise<{ context: Context; pool: pg.Pool }> {
  const { db, pool } = connect(config.databaseUrl);
  const queue = await whenReached(() => Queue.begin(pool, db));
  const blobs = new BlobStore(join(config.data, 'blobs'));
  return { context: { db, blobs, queue, documents, made: new MadeFiles(join(config.data, 'made'), MADE_BYTES) }, pool };
}
