/**
 * Signing in, where a token is set: a page by the token and a cookie from then on, a script by the token in each request
 * (`Authorization: Bearer …`, RFC 6750). What is stored of a session is made with the token, so that a new token ends
 * them all, and the database alone lets nobody in.
 */
import { createHash, createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import { eq, lt } from 'drizzle-orm';
import type { NextFunction, Request, RequestHandler, Response, Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { SignInRequest } from '../../core/contracts/requests.ts';
import { config } from '../config.ts';
import type { Database } from '../db/database.ts';
import { sessions } from '../db/schema.ts';
import { RequestError } from '../errors.ts';
import { answer, bodyOf } from './answers.ts';

const COOKIE = 'dusting_session';
const LIFETIME_MS = 7 * 24 * 3600_000;
/** Wrong tokens from one address, and how long they count. */
const MOST_FAILURES = 10;
const FAILURES_COUNT_MS = 15 * 60_000;

const failures = rateLimit({
  windowMs: FAILURES_COUNT_MS,
  limit: MOST_FAILURES,
  skipSuccessfulRequests: true,
  legacyHeaders: false,
  standardHeaders: 'draft-7',
  handler: () => {
    throw new RequestError(429, `Too many wrong tokens. Try again in ${FAILURES_COUNT_MS / 60_000} minutes.`);
  },
});

const same = (a: string, b: string): boolean => {
  const digest = (text: string) => createHash('sha256').update(text).digest();
  return timingSafeEqual(digest(a), digest(b));
};

const keyOf = (id: string): string => createHmac('sha256', config.token!).update(id).digest('hex');

function sessionOf(request: Request): string | null {
  const found = new RegExp(`(?:^|;\\s*)${COOKIE}=([0-9a-f]{64})(?:;|$)`).exec(request.headers.cookie ?? '');
  return found?.[1] ?? null;
}

const bearerOf = (request: Request): string | null =>
  /^Bearer (\S+)$/i.exec(request.headers.authorization ?? '')?.[1] ?? null;

async function isSignedIn(db: Database, request: Request): Promise<boolean> {
  const id = sessionOf(request);
  if (id === null) return false;
  const [row] = await db
    .select()
    .from(sessions)
    .where(eq(sessions.key, keyOf(id)));
  return row !== undefined && row.expiresAt.getTime() > Date.now();
}

/** Lets nobody through who is not signed in, where a token is set. What anybody may ask stands before it. */
export function needSignIn(db: Database): RequestHandler {
  return (request: Request, response: Response, next: NextFunction) => {
    if (config.token === null) return next();
    const bearer = bearerOf(request);
    // Guesses of scripts count as those of the page do.
    if (bearer !== null && same(bearer, config.token)) return next();
    const refuse = (why?: unknown) => next(why ?? new RequestError(401, 'Sign in first.'));
    if (bearer !== null) return failures(request, response, refuse);
    isSignedIn(db, request).then((isIn) => (isIn ? next() : refuse()), next);
  };
}

export function signInRoutes(db: Database, router: Router): void {
  router.get(
    '/session',
    answer(async (request) => ({
      needed: config.token !== null,
      signedIn: config.token === null || (await isSignedIn(db, request)),
    })),
  );
  router.post(
    '/session',
    failures,
    answer(async (request, response) => {
      if (config.token === null) throw new RequestError(409, 'This server does not require signing in.');
      if (!same(bodyOf(request, SignInRequest).token, config.token)) throw new RequestError(401, 'Wrong token.');
      const id = randomBytes(32).toString('hex');
      await db.delete(sessions).where(lt(sessions.expiresAt, new Date()));
      await db.insert(sessions).values({ key: keyOf(id), expiresAt: new Date(Date.now() + LIFETIME_MS) });
      response.cookie(COOKIE, id, { ...cookieOptions(request), maxAge: LIFETIME_MS });
    }),
  );
  router.delete(
    '/session',
    answer(async (request, response) => {
      const id = sessionOf(request);
      if (id !== null && config.token !== null) await db.delete(sessions).where(eq(sessions.key, keyOf(id)));
      response.clearCookie(COOKIE, cookieOptions(request));
    }),
  );
}

/** `secure` behind a proxy that says by `X-Forwarded-Proto` that it speaks TLS. */
const cookieOptions = (request: Request) =>
  ({ httpOnly: true, sameSite: 'strict', path: '/', secure: request.secure }) as const;
