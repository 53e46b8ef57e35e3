/** What every part of the server works with. */
import type { BlobStore } from './blobs.ts';
import type { Database } from './db/database.ts';
import type { Queue } from './queue.ts';

export interface Context {
  db: Database;
  blobs: BlobStore;
  queue: Queue;
}
