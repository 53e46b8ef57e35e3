/** Where a Dusting may listen. */
import process from 'node:process';
import { CannotGoOn } from './say.mjs';

const LOOPBACK = /^(localhost|127(\.\d+){3}|::1)$/i;
const LEAST_TOKEN = 16;

/** What others on the network can reach asks them to sign in, or is not begun. */
export function needTokenBeyondLoopback(host) {
  const { DUSTING_TOKEN: token = '', DUSTING_TOKEN_FILE: file = '' } = process.env;
  if (token && token.length < LEAST_TOKEN)
    throw new CannotGoOn(`DUSTING_TOKEN has ${token.length} characters; it must have ${LEAST_TOKEN} or more.`);
  if (LOOPBACK.test(host) || token || file) return;
  throw new CannotGoOn(
    `DUSTING_HOST is ${host}, which others can reach. Set DUSTING_TOKEN, or DUSTING_TOKEN_FILE to a file with it: a secret\nof ${LEAST_TOKEN} characters or more that everybody signs in with. docs/security.md says how to put Dusting on a network.`,
  );
}
