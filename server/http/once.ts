/**
 * Requests that are done once however often they are sent: a page whose connection broke cannot know whether the first
 * was heard, and sends it again with the same `Idempotency-Key`. The key is written in the transaction that does what
 * was asked; a second request of the same key gets the first one's answer.
 * Source: IETF draft-ietf-httpapi-idempotency-key-header.
 */
import { createHash } from 'node:crypto';
import { eq } from 'drizzle-orm';
import type { NextFunction, Request, RequestHandler, Response } from 'express';
import type { Database } from '../db/database.ts';
import { withKey } from '../db/once-key.ts';
import { onceKeys } from '../db/schema.ts';
import { conflict, RequestError } from '../errors.ts';

const KEY = /^[\x21-\x7e]{8,200}$/;

/** Keeps what is answered, before it is sent. */
export type KeepAnswer = (status: number, body: unknown) => Promise<unknown>;

export function once(db: Database): RequestHandler {
  return (request: Request, response: Response, next: NextFunction) => {
    const given = request.headers['idempotency-key'];
    if (given === undefined || request.method === 'GET') return next();
    if (!KEY.test(String(given)))
      throw new RequestError(400, 'The Idempotency-Key is 8 to 200 characters without spaces.');
    const key = createHash('sha256')
      .update(`${request.method} ${request.originalUrl} ${String(given)}`)
      .digest('hex');
    const keep: KeepAnswer = (status, body) =>
      db.update(onceKeys).set({ answer: JSON.stringify({ status, body }) }).where(eq(onceKeys.key, key)); // prettier-ignore
    db.select()
      .from(onceKeys)
      .where(eq(onceKeys.key, key))
      .then(([known]) => {
        if (known) return replay(response, known.answer, next);
        response.locals.keepAnswer = keep;
        withKey(key, next);
      })
      .catch(next);
  };
}

function replay(response: Response, answer: string | null, next: NextFunction): void {
  if (answer === null)
    return next(conflict('This was asked before: it is being done, or was done just before the server ended.'));
  const { status, body } = JSON.parse(answer) as { status: number; body?: unknown };
  if (body === undefined) response.status(status).end();
  else response.status(status).json(body);
}
