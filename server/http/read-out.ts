import type { Request } from 'express';

/** Milliseconds that a refused upload may go on arriving before its connection is closed all the same. */
const LONGEST_READ_OUT = 15_000;

/**
 * Reads and forgets what a sender still has to say. A connection that is closed while its sender writes is
 * reset, and takes the answer with it: the page would tell of a broken network, not of what was wrong.
 */
export async function readOut(request: Request): Promise<void> {
  if (request.complete || request.destroyed) return;
  await new Promise<void>((resolve) => {
    const enough = setTimeout(resolve, LONGEST_READ_OUT);
    const over = () => {
      clearTimeout(enough);
      resolve();
    };
    request.once('end', over).once('close', over).once('error', over);
    request.resume();
  });
}
