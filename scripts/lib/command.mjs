/** Running other programs: to their end, or beside us until they are told to stop. */
import { spawn, spawnSync } from 'node:child_process';
import { openSync } from 'node:fs';
import { terminalFd } from './say.mjs';

/** @returns {{ ok: boolean, out: string }} with both output streams */
export function attempt(command, args, options = {}) {
  const result = spawnSync(command, args, { encoding: 'utf8', ...options });
  return {
    ok: result.status === 0,
    out: `${result.stdout ?? ''}${result.stderr ?? ''}${result.error?.message ?? ''}`.trim(),
  };
}

/** The same, while this process goes on. */
export function attemptMeanwhile(command, args, options = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { ...options, stdio: ['ignore', 'pipe', 'pipe'] });
    let out = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (piece) => (out += piece));
    child.once('error', (error) => resolve({ ok: false, out: error.message }));
    child.once('close', (code) => resolve({ ok: code === 0, out: out.trim() }));
  });
}

/** Runs with the terminal as its own. */
export function show(command, args, options = {}) {
  return spawnSync(command, args, { stdio: ['inherit', terminalFd(), 'inherit'], ...options }).status === 0;
}

/**
 * Starts a process of its own group, so that Ctrl-C reaches us alone and we stop things in order.
 * @param logFile where its output goes
 */
export function startApart(command, args, { logFile, ...options }) {
  const log = openSync(logFile, 'a');
  return spawn(command, args, { ...options, detached: true, stdio: ['ignore', log, log] });
}

/** Asks a child to end, and ends it after `patience` milliseconds. */
export async function stopChild(child, patience = 8000) {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  const timer = setTimeout(() => child.kill('SIGKILL'), patience);
  await ended;
  clearTimeout(timer);
}
