/** How handlers answer: a promise's value as JSON, or an error as a sentence with its places. */
import type { TSchema, Static } from '@sinclair/typebox';
import type { NextFunction, Request, RequestHandler, Response } from 'express';
import type { ErrorBody } from '../../core/contracts/events.ts';
import { InvalidInput } from '../../core/document/problem.ts';
import { checkSchema } from '../../core/document/schema-check.ts';
import { notFound, RequestError } from '../errors.ts';
import { log } from '../log.ts';

/** Answers with what the handler gives, or with 204 when that is nothing. */
export function answer(handle: (request: Request, response: Response) => Promise<unknown>): RequestHandler {
  return (request, response, next) => {
    handle(request, response)
      .then((value) => {
        if (response.headersSent) return;
        if (value === undefined) response.status(204).end();
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

export function unknownRoute(request: Request): never {
  throw notFound(`address ${request.method} ${request.path.slice(0, 120)} here`);
}

// Express knows error handlers by their four parameters.
export function answerError(error: unknown, request: Request, response: Response, _next: NextFunction): void {
  const { status, body } = errorBody(error);
  if (status >= 500) log.error({ error: (error as Error).stack, path: request.path }, 'request failed');
  if (response.headersSent) response.end();
  else response.status(status).json(body);
}

function errorBody(error: unknown): { status: number; body: ErrorBody } {
  if (error instanceof InvalidInput) return { status: 400, body: { error: error.message, problems: error.problems } };
  if (error instanceof RequestError) return { status: error.status, body: { error: error.message, problems: [] } };
  // Express's own: a body that is no JSON, or too large.
  const { status, message } = error as { status?: number; message?: string };
  if (status && status < 500)
    return { status, body: { error: `The request could not be read: ${message}.`, problems: [] } };
  return {
    status: 500,
    body: { error: 'The server failed at this; its log says why. Nothing was changed.', problems: [] },
  };
}
