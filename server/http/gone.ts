import type { Response } from 'express';

/** Aborted when whoever asked closes the connection before there is an answer. */
export function goneSignal(response: Response): AbortSignal {
  const gone = new AbortController();
  response.once('close', () => response.writableFinished || gone.abort());
  return gone.signal;
}
