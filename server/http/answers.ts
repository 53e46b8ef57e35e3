/** How handlers answer: a promise's value as JSON, or an error as a sentence with its places. */
import { basename } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import type { TSchema, Static } from '@sinclair/typebox';
import type { NextFunction, Request, RequestHandler, Response } from 'express';
import type { ErrorBody } from '../../core/contracts/events.ts';
import { InvalidInput } from '../../core/document/problem.ts';
import { checkSchema } from '../../core/document/schema-check.ts';
import { DamagedBlob } from '../blobs.ts';
import { config } from '../config.ts';
import { DoneAlready } from '../db/once-key.ts';
import { isAway, notFound, RequestError, storageFault } from '../errors.ts';
import { log } from '../log.ts';
import type { KeepAnswer } from './once.ts';

/** How long something that is read waits for a database that is away, milliseconds. */
const PATIENCE_MS = 4000;
const PAUSE_MS = 200;

/** Answers with what the handler gives, or with 204 when that is nothing. What is only read is read again while the database is away. */
export function answer(handle: (request: Request, response: Response) => Promise<unknown>): RequestHandler {
  return (request, response, next) => {
    const until = request.method === 'GET' ? Date.now() + PATIENCE_MS : 0;
    const attempt = async (): Promise<unknown> => {
      try {
        return await handle(request, response);
      } catch (error) {
        if (!isAway(error) || Date.now() > until || response.headersSent) throw error;
        await sleep(PAUSE_MS);
        return attempt();
      }
    };
    attempt()
      .then(async (value) => {
        if (response.headersSent) return;
        const status = value === undefined && response.statusCode === 200 ? 204 : response.statusCode;
        await (response.locals.keepAnswer as KeepAnswer | undefined)?.(status, value);
        if (value === undefined) response.status(status).end();
        else response.json(value);
      })
      .catch(next);
  };
}

/** The body, checked; InvalidInput names what does not fit. */
export function bodyOf<T extends TSchema>(request: Request, schema: T): Static<T> {
  checkSchema(schema, request.body ?? {}, 'request');
  return request.body as Static<T>;
}

/** A shot's code from the path. */
export const codeOf = (request: Request): string => String(request.params.code);

/** A row's number from the path; what is no number names nothing. */
export function idOf(request: Request, what: string): number {
  const text = String(request.params.id);
  if (!/^\d{1,9}$/.test(text)) throw notFound(`${what} "${text.slice(0, 40)}"`);
  return Number(text);
}

/** One value of the query, as text; `fallback` where it is left out. @throws RequestError 400 where it is given several times */
export function queryOf(request: Request, name: string, fallback = ''): string {
  const value = request.query[name];
  if (value === undefined) return fallback;
  if (typeof value !== 'string') throw new RequestError(400, `"${name}" is given several times.`);
  return value;
}

/** Sends a file whose name tells its contents, with that as its validator, and in the parts that are asked for. */
export function sendPlace(
  response: Response,
  place: string,
  headers: Record<string, string>,
  send: 'inline' | { attachment: string } = 'inline',
): Promise<void> {
  if (send !== 'inline') response.attachment(send.attachment);
  return new Promise((resolve, reject) =>
    response.sendFile(
      place,
      {
        dotfiles: 'allow',
        headers: { ETag: `"${basename(place)}"`, ...headers },
        cacheControl: false,
        lastModified: false,
      },
      (error) =>
        // prettier-ignore
        // A reader that leaves midway is nobody's fault.
        error && !response.headersSent ? reject(error) : resolve(),
    ),
  );
}

export function unknownRoute(request: Request): never {
  throw notFound(`address ${request.method} ${request.path.slice(0, 120)} here`);
}

// Express knows error handlers by their four parameters.
export function answerError(error: unknown, request: Request, response: Response, _next: NextFunction): void {
  const { status, body } = errorBody(error);
  if (status >= 500 && status !== 507)
    log.error({ error: (error as Error).stack, path: request.path }, 'request failed');
  if (response.headersSent) {
    response.end();
    return;
  }
  if (status === 503) response.set('Retry-After', '1');
  response.status(status).json({ ...body, error: withoutPlaces(body.error) });
}

/** Where things stand on the server is nobody's business outside. */
const withoutPlaces = (text: string): string => text.replaceAll(config.data, '…');

function errorBody(error: unknown): { status: number; body: ErrorBody } {
  const told = (status: number, sentence: string) => ({ status, body: { error: sentence, problems: [] } });
  if (error instanceof InvalidInput) return { status: 400, body: { error: error.message, problems: error.problems } };
  if (error instanceof RequestError) return told(error.status, error.message);
  if (error instanceof DoneAlready) return told(409, 'This was asked twice at the same moment; it is done once.');
  if (error instanceof DamagedBlob)
    return told(409, error.path ? error.message : `${error.message} Import the file again, or render again: identical data repairs it.`); // prettier-ignore
  if (isAway(error)) return told(503, 'The database is temporarily unavailable. Nothing was changed; try again.');
  const fault = storageFault(error);
  if (fault) return told(507, `${fault} Nothing was kept.`);
  // Express's own: a body that is no JSON, or too large.
  const { status, message } = error as { status?: number; message?: string };
  if (status && status < 500) return told(status, `The request could not be read: ${message}.`);
  return told(500, 'The server failed; see its log. Nothing was changed.');
}
