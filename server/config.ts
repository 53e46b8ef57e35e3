/** What the environment decides. The start command sets all of it; defaults serve a process run by hand. */
import { availableParallelism, hostname } from 'node:os';
import { resolve } from 'node:path';

const whole = (name: string, fallback: number, least: number, most: number): number => {
  const text = process.env[name];
  if (text === undefined || text === '') return fallback;
  const value = Number(text);
  if (!Number.isInteger(value) || value < least || value > most)
    throw new RangeError(`${name} is "${text}"; it must be a whole number from ${least} to ${most}`);
  return value;
};

export const config = {
  host: process.env.DUSTING_HOST || '127.0.0.1',
  port: whole('DUSTING_PORT', 4600, 0, 65535),
  /** Blobs, uploads and logs. */
  data: resolve(process.env.DUSTING_DATA || '.dusting'),
  databaseUrl: process.env.DUSTING_DATABASE_URL || 'postgresql://dusting@127.0.0.1:5432/postgres',
  /** Threads that one worker process renders on. */
  threads: whole('DUSTING_THREADS', Math.min(64, availableParallelism()), 1, 64),
  /** Most bytes of one upload. */
  uploadLimit: whole('DUSTING_UPLOAD_LIMIT', 2 * 1024 ** 3, 1, 2 ** 50),
  /** Names this process in what it writes down. */
  processName: `${hostname()}:${process.pid}`,
};
