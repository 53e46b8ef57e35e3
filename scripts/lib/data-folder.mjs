/** The folder that holds all a Dusting keeps, and which Dusting is using it. */
import { accessSync, constants, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import process from 'node:process';
import { root } from './machine.mjs';
import { CannotGoOn } from './say.mjs';

/**
 * Makes sure the folder is there, can be written, and is nobody else's at the moment.
 * @returns {{ folder: string, logs: string, release: () => void }}
 */
export function claimDataFolder() {
  const folder = resolve(process.env.DUSTING_DATA || join(root, '.dusting'));
  const logs = join(folder, 'logs');
  try {
    mkdirSync(logs, { recursive: true });
    accessSync(folder, constants.W_OK);
  } catch (error) {
    throw new CannotGoOn(
      `The data folder ${folder} cannot be written (${error.code}). Name another one in DUSTING_DATA.`,
    );
  }
  const claim = join(folder, 'running');
  const owner = existsSync(claim) ? Number(readFileSync(claim, 'utf8')) : 0;
  if (owner && owner !== process.pid && isStarter(owner))
    throw new CannotGoOn(
      `Process ${owner} is running Dusting on ${folder} already. Stop it, or name another folder in DUSTING_DATA.`,
    );
  writeFileSync(claim, String(process.pid));
  return { folder, logs, release: () => rmSync(claim, { force: true }) };
}

/** Process numbers are used again: it must be alive and one of our start commands. */
function isStarter(pid) {
  try {
    return /scripts\/(start|dev)\.mjs/.test(readFileSync(`/proc/${pid}/cmdline`, 'utf8'));
  } catch {
    return false;
  }
}
