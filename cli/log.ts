/** `dusting log`: a render log in the order in which somebody should read it. */
import { createReadStream, existsSync } from 'node:fs';
import { open, readFile, stat } from 'node:fs/promises';
import { parseLogFormat } from '../core/intake/log/format.ts';
import { LOG_FORMATS } from '../core/intake/log/formats.ts';
import { pathIn, type LogEvidence } from '../core/intake/log/meanings.ts';
import type { ReadLog } from '../core/intake/log/read.ts';
import { LogStream } from '../core/intake/log/stream.ts';
import { compareLogs, type LogDifference } from '../core/intake/log/compare.ts';
import { triage, type Triage } from '../core/intake/log/triage.ts';
import { normalise } from '../core/formats/paths.ts';
import { BadUse } from './bad-use.ts';
import { filesInFolder } from './folder-files.ts';
import { parseOptions } from './options.ts';
import { EXIT_CODES } from './preflight.ts';

export const LOG_USAGE = `dusting log <file> [--format format.json]… [--files folder] [--against other.log] [--json]`;

const OPTIONS = {
  format: { type: 'string', multiple: true },
  files: { type: 'string' },
  against: { type: 'string' },
  json: { type: 'boolean', default: false },
} as const;

export async function logCommand(args: string[]): Promise<number> {
  const { values, positionals } = parseOptions(args, OPTIONS, LOG_USAGE);
  if (positionals.length !== 1) throw new BadUse(`Name one log.\n${LOG_USAGE}`);
  for (const path of [positionals[0], ...(values.format ?? []), values.files, values.against])
    if (path !== undefined && !existsSync(path)) throw new BadUse(`There is no "${path}".`);
  const own = await Promise.all(
    (values.format ?? []).map(async (path) => parseLogFormat(await readFile(path, 'utf8'), path)),
  );
  const formats = own.length ? own : LOG_FORMATS;
  const log = await readLog(positionals[0], formats);
  const evidence = values.files === undefined ? {} : await evidenceOf(log, values.files);
  const found = triage(log, evidence);
  const against = values.against === undefined ? null : compareLogs(await readLog(values.against, formats), log);
  console.log(values.json ? JSON.stringify({ ...log, ...found, against }) : tell(log, found, against));
  return EXIT_CODES[found.state];
}

/** Piece by piece: a log may be larger than what text fits into memory. */
async function readLog(path: string, formats: typeof LOG_FORMATS): Promise<ReadLog> {
  if (!(await stat(path)).isFile()) throw new BadUse(`"${path}" is no file.`);
  const encoding = await encodingOf(path);
  const stream = new LogStream(path, formats);
  for await (const piece of createReadStream(path, { encoding, highWaterMark: 2 ** 20 })) stream.push(piece as string);
  return stream.end();
}

async function encodingOf(path: string): Promise<'utf8' | 'utf16le'> {
  const file = await open(path);
  try {
    const { buffer } = await file.read(Buffer.alloc(2), 0, 2, 0);
    return buffer[0] === 0xff && buffer[1] === 0xfe ? 'utf16le' : 'utf8';
  } finally {
    await file.close();
  }
}

/** Files that renderers prepare from a texture: the same name with another ending, beside it. */
const PREPARED = ['.tx', '.mip', '.exr'];

/** Looks up every path that the log complains about. */
async function evidenceOf(log: ReadLog, folder: string): Promise<LogEvidence> {
  const files = filesInFolder(folder);
  const known = new Map<string, 'there' | 'prepared' | 'missing'>();
  for (const { message } of log.kinds) {
    const path = pathIn(message);
    if (path === null || known.has(path)) continue;
    const place = normalise(path.replaceAll('\\', '/'));
    const base = place.replace(/\.[^./]+$/, '');
    let state: 'there' | 'prepared' | 'missing' = (await files.read(place)) ? 'there' : 'missing';
    for (const ending of PREPARED)
      if (state === 'missing' && ((await files.read(base + ending)) || (await files.read(place + ending))))
        state = 'prepared';
    known.set(path, state);
  }
  return { fileState: (path) => known.get(path) ?? null };
}

function tell(log: ReadLog, found: Triage, against: LogDifference | null): string {
  const seconds = log.seconds === null ? 'no times' : `${Math.round(log.seconds)} s`;
  const memory = log.memory === null ? 'no memory stated' : `peak ${(log.memory.peak / 2 ** 30).toPrecision(3)} GB`;
  const lines = [`${log.format} log, ${log.lines.toLocaleString('en')} lines, ${seconds}, ${memory}`];
  const { brokeOff } = found;
  if (brokeOff) {
    const at = [
      brokeOff.phase && `in "${brokeOff.phase}"`,
      brokeOff.frame !== null && `frame ${brokeOff.frame}`,
      brokeOff.object && `at ${brokeOff.object}`,
    ];
    lines.push(`Breaks off at line ${brokeOff.line} ${at.filter(Boolean).join(', ')}: ${brokeOff.cause}.`);
  }
  for (const { severity, count, message, firstLine, verdict, meaning } of found.kinds) {
    const word = verdict.harmless === 'yes' ? 'harmless' : verdict.harmless === 'no' ? 'matters' : 'look';
    lines.push(
      `${word.padEnd(9)}${severity} × ${count}, line ${firstLine}: ${message.slice(0, 200)}`,
      `         ${meaning} ${verdict.why[0].toUpperCase()}${verdict.why.slice(1)}.`,
    );
  }
  for (const { name, seconds: spent } of log.phases.filter((phase) => phase.seconds > 0))
    lines.push(`${spent.toFixed(1).padStart(10)} s  ${name}`);
  lines.push(...found.hints, ...found.lacking);
  if (against) lines.push(...against.sentences);
  return lines.join('\n');
}
