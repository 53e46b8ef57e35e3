/** What the environment decides. The start command sets all of it; defaults serve a process run by hand. */
import { availableParallelism, hostname } from 'node:os';
import { resolve } from 'node:path';
import { LEAST_TOKEN, tokenOf } from '../host/token.ts';

const whole = (name: string, fallback: number, least: number, most: number): number => {
  const text = process.env[name];
  if (text === undefined || text === '') return fallback;
  const value = Number(text);
  if (!Number.isInteger(value) || value < least || value > most)
    throw new RangeError(`${name} is "${text}"; it must be a whole number from ${least} to ${most}`);
  return value;
};

export const isLoopback = (host: string): boolean => /^(localhost|127(\.\d+){3}|::1)$/i.test(host);

export const config = {
  host: process.env.DUSTING_HOST || '127.0.0.1',
  port: whole('DUSTING_PORT', 4600, 0, 65535),
  /** Names this server may be called by besides loopback's, in lower case. */
  hosts: (process.env.DUSTING_HOSTS ?? '')
    .split(',')
    .map((name) => name.trim().toLowerCase())
    .filter(Boolean),
  /** What people and scripts sign in with; null: nobody is asked. */
  token: tokenOf(process.env),
  /** Blobs, uploads and logs. */
  data: resolve(process.env.DUSTING_DATA || '.dusting'),
  databaseUrl: process.env.DUSTING_DATABASE_URL || 'postgresql://dusting@127.0.0.1:5432/postgres',
  /** Threads that one worker process renders on. */
  threads: whole('DUSTING_THREADS', Math.min(64, availableParallelism()), 1, 64),
  /** Most requests of one address within ten seconds. */
  requestLimit: whole('DUSTING_REQUEST_LIMIT', 2000, 1, 1e9),
  /** Most bytes of one upload. */
  uploadLimit: whole('DUSTING_UPLOAD_LIMIT', 2 * 1024 ** 3, 1, 2 ** 50),
  /** Most bytes of memory of one process that reads what came in. */
  apartMemory: whole('DUSTING_APART_MEMORY', 3072, 256, 2 ** 20) * 2 ** 20,
  /** Seconds that it may take, and one more for each ten million bytes. */
  apartSeconds: whole('DUSTING_APART_SECONDS', 60, 1, 86_400),
  /** Seconds after which a job is taken to hang; its process is ended, and the job done again. */
  jobSeconds: whole('DUSTING_JOB_SECONDS', 1800, 1, 604_800),
  /** Names this process in what it writes down. */
  processName: `${hostname()}:${process.pid}`,
};

if (!isLoopback(config.host) && config.token === null)
  throw new RangeError(
    `DUSTING_HOST is ${config.host}, which others can reach: set DUSTING_TOKEN, or DUSTING_TOKEN_FILE, to a secret of ${LEAST_TOKEN} characters or more that they sign in with`,
  );
