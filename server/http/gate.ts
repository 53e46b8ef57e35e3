/**
 * Who may ask. A browser sends requests for any page that is open in it: so only our own pages may change or read
 * anything, and only under names that are ours, or a foreign name could be pointed at this machine (DNS rebinding).
 * Scripts, which send neither `Origin` nor `Sec-Fetch-Site`, go by what they know. See `docs/security.md`.
 * Sources: the Fetch standard; W3C "Fetch Metadata Request Headers"; RFC 6454.
 */
import type { NextFunction, Request, Response } from 'express';
import { isIP } from 'node:net';
import { config } from '../config.ts';
import { RequestError } from '../errors.ts';

const SAFE_METHODS = ['GET', 'HEAD', 'OPTIONS'];
const LOOPBACK = ['localhost', '127.0.0.1', '::1'];
/** What a body may come as, besides JSON: forms of files, and files as they are. */
const BODIES = /^(application\/json|multipart\/form-data|application\/octet-stream|text\/(plain|csv)|application\/(gzip|x-gzip))(;|$)/i; // prettier-ignore

/** Names by which this server may be called: loopback's, the address it listens on, and `DUSTING_HOSTS`. */
const allowedHosts = new Set([...LOOPBACK, ...(isIP(config.host) ? [config.host] : []), ...config.hosts]);

/** Without the port; `[::1]` without its brackets. */
function hostOf(authority: string): string {
  const bracketed = /^\[([0-9a-f:.]+)\](:\d+)?$/i.exec(authority);
  return (bracketed ? bracketed[1] : authority.replace(/:\d+$/, '')).toLowerCase();
}

/** @throws RequestError 421 for a name that is not ours */
export function onlyOurHosts(request: Request, _response: Response, next: NextFunction): void {
  const host = hostOf(request.headers.host ?? '');
  if (!allowedHosts.has(host))
    throw new RequestError(
      421,
      `This server is not called "${host.slice(0, 80)}". If it should be, name it in DUSTING_HOSTS.`,
    );
  next();
}

/** @throws RequestError 403 for what another site's page asks */
export function onlyOurPages(request: Request, _response: Response, next: NextFunction): void {
  const site = request.headers['sec-fetch-site'];
  const isForeign = site !== undefined && site !== 'same-origin' && site !== 'none';
  const isSafe = SAFE_METHODS.includes(request.method);
  // A link from elsewhere may be followed; what is behind it may not be read by the page it stands on.
  const isLink = isSafe && request.headers['sec-fetch-mode'] === 'navigate';
  if (isForeign && !isLink) throw foreign();
  const { origin } = request.headers;
  if (!isSafe && origin !== undefined && !isOurs(origin, request.headers.host ?? '')) throw foreign();
  next();
}

function isOurs(origin: string, host: string): boolean {
  try {
    return new URL(origin).host === host.toLowerCase();
  } catch {
    return false;
  }
}

const foreign = () => new RequestError(403, 'A page of another site asked for this; only pages of this server may.');

/** @throws RequestError 415 for a body of a kind that no route takes, 400 for text that no database keeps */
export function onlyPlainText(request: Request, _response: Response, next: NextFunction): void {
  const hasBody =
    Number(request.headers['content-length'] ?? 0) > 0 || request.headers['transfer-encoding'] !== undefined;
  const type = request.headers['content-type'] ?? '';
  if (hasBody && !BODIES.test(type))
    throw new RequestError(
      415,
      `A body of type "${type.slice(0, 80)}" is not taken: send JSON as application/json, files as they are.`,
    );
  if (/%00|\0/.test(request.url)) throw new RequestError(400, 'The address holds a NUL character.');
  next();
}

/** @throws RequestError 400 where a parsed body holds NUL, which no database keeps as text */
export function onlyTextWithoutNul(request: Request, _response: Response, next: NextFunction): void {
  if (holdsNul(request.body)) throw new RequestError(400, 'The request holds a NUL character.');
  next();
}

function holdsNul(value: unknown): boolean {
  if (typeof value === 'string') return value.includes('\0');
  if (value === null || typeof value !== 'object' || Buffer.isBuffer(value)) return false;
  return Object.entries(value).some(([key, inner]) => key.includes('\0') || holdsNul(inner));
}
