/** Requests that cannot be done as asked, with the status that says why; and what may be said of errors at all. */
import { DamagedBlob } from './blobs.ts';

export class RequestError extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
    this.name = 'RequestError';
  }
}

export const notFound = (what: string): RequestError => new RequestError(404, `There is no ${what}.`);
export const conflict = (message: string): RequestError => new RequestError(409, message);

const DISK: Record<string, string> = {
  ENOSPC: 'The disk is full.',
  EDQUOT: 'The disk quota is used up.',
  EROFS: 'The disk is read-only at the moment.',
  EACCES: 'The data folder is not writable.',
  EPERM: 'The data folder is not writable.',
  EFBIG: 'The file is too large for the disk.',
  ENOTDIR: 'A folder of the data folder is gone.',
  EIO: 'The disk does not answer.',
};

/** What is wrong with the storage, where that is why something failed; null: it is something else. */
export function storageFault(error: unknown): string | null {
  if (!isSystemError(error)) return null;
  return DISK[error.code] ?? null;
}

/**
 * An error as a sentence for people. What the system says of files names places on the server, which nobody outside
 * needs: its code is told instead.
 */
export function tellError(error: unknown): string {
  const fault = storageFault(error);
  if (fault) return fault;
  if (error instanceof DamagedBlob) return error.message;
  if (isSystemError(error)) return `A file could not be read or written (${error.code}).`;
  return error instanceof Error ? error.message : String(error);
}

const isSystemError = (error: unknown): error is NodeJS.ErrnoException & { code: string } =>
  error instanceof Error && typeof (error as NodeJS.ErrnoException).syscall === 'string' && 'code' in error;

/** Codes of a database that is away or on its way: PostgreSQL, class 08 and 57P, and what sockets say. */
const AWAY = /^(08...|57P0[1-5]|53300|ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|ENOTFOUND)$/;

/** Whether the database could not be reached, so that nothing was changed and the same may be tried again. */
export function isAway(error: unknown): boolean {
  for (let at = error; at instanceof Error; at = at.cause) {
    if (AWAY.test(String((at as NodeJS.ErrnoException).code ?? ''))) return true;
    if (/^(Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error)/.test(at.message)) return true; // prettier-ignore
    if (at instanceof AggregateError && at.errors.some(isAway)) return true;
  }
  return false;
}
