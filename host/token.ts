/** The secret to sign in with, where one is set. */
import { readFileSync } from 'node:fs';

/** Characters; shorter ones are guessed. */
export const LEAST_TOKEN = 16;

/**
 * @param env `DUSTING_TOKEN`, or `DUSTING_TOKEN_FILE`, which names a file that holds it
 * @returns null where neither is set
 * @throws RangeError for one that is too short, or holds spaces
 */
export function tokenOf({ DUSTING_TOKEN, DUSTING_TOKEN_FILE }: NodeJS.ProcessEnv): string | null {
  if (!DUSTING_TOKEN && !DUSTING_TOKEN_FILE) return null;
  const token = DUSTING_TOKEN || readFileSync(DUSTING_TOKEN_FILE!, 'utf8').trim();
  if (!/^[\x21-\x7e]+$/.test(token) || token.length < LEAST_TOKEN)
    throw new RangeError(
      `${DUSTING_TOKEN ? 'DUSTING_TOKEN' : 'The file of DUSTING_TOKEN_FILE'} must hold ${LEAST_TOKEN} characters or more, without spaces`,
    );
  return token;
}
