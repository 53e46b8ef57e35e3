/** Logs read from files, by formats that people wrote; apart, see `apart/`. */
import { createReadStream } from 'node:fs';
import { createGunzip, createGzip } from 'node:zlib';
import { pipeline } from 'node:stream/promises';
import { StringDecoder } from 'node:string_decoder';
import type { ShotLog } from '../../../core/contracts/intake.ts';
import type { ShotDocument } from '../../../core/document/schema.ts';
import { normalise } from '../../../core/formats/paths.ts';
import { parseLogFormat, type LogFormat } from '../../../core/intake/log/format.ts';
import { ownFormat } from '../../../core/intake/log/formats/own.ts';
import type { LogEvidence } from '../../../core/intake/log/meanings.ts';
import { LogReading, type ReadLog } from '../../../core/intake/log/read.ts';
import { parseStatistics, withStatistics, type Statistics } from '../../../core/intake/log/statistics.ts';
import { LogStream } from '../../../core/intake/log/stream.ts';
import { triage, type LogDecision } from '../../../core/intake/log/triage.ts';
import { PROFILE_SORTS } from '../../../core/intake/profiles.ts';
import { referencedFiles } from '../../../core/render/compile/load-assets.ts';
import { BlobStore } from '../../blobs.ts';
import { notFound, RequestError } from '../../errors.ts';

/** Lines of a log that a page tries formats on. */
const SAMPLE = 200;

export interface LogTask {
  name: string;
  /** Texts of the show's own formats. */
  formats: string[];
  /** Name of the format it is in; null: its lines tell. */
  format: string | null;
  blobs: string;
  /** Where it stands: a file that came in, which is kept as a blob, or a blob. */
  from: { file: string } | { blob: string };
}

/** What a row of `logs` holds: `ReadLog` and the first lines as JSON, and the hash of the packed text. */
export interface LogRead {
  body: string;
  sample: string;
  blob: string;
}

/** @throws RequestError 400 when it is no log */
export async function readLogFile({ name, formats, format, blobs: folder, from }: LogTask): Promise<LogRead> {
  const blobs = new BlobStore(folder);
  const known: LogFormat[] = [
    ...formats.map((text) => parseLogFormat(text, 'a format of the show')),
    ...(PROFILE_SORTS['log-format'].ships as LogFormat[]),
  ];
  const wanted = format === null ? known : known.filter((one) => one.name === format);
  if (wanted.length === 0) throw notFound(`format of logs "${format!.slice(0, 80)}"`);
  const stream = new LogStream(name, wanted, format !== null);
  const text = 'blob' in from ? (await blobs.stream(from.blob)).pipe(createGunzip()) : createReadStream(from.file);
  let decoder: StringDecoder | null = null;
  let head = '';
  try {
    for await (const piece of text as AsyncIterable<Buffer>) {
      decoder ??= new StringDecoder(piece[0] === 0xff && piece[1] === 0xfe ? 'utf16le' : 'utf8');
      const part = decoder.write(piece);
      if (head.length < 2 ** 16) head += part;
      stream.push(part);
    }
    const body = JSON.stringify(stream.end());
    const sample = JSON.stringify(head.split('\n', SAMPLE).map((line) => line.slice(0, 1000)));
    return { body, sample, blob: 'blob' in from ? from.blob : await packed(blobs, from.file) };
  } catch (error) {
    if (error instanceof RangeError) throw new RequestError(400, `${error.message} Nothing was kept.`);
    throw error;
  }
}

async function packed(blobs: BlobStore, file: string): Promise<string> {
  const writer = await blobs.begin();
  try {
    await pipeline(createReadStream(file), createGzip({ level: 1 }), async (pieces: AsyncIterable<Buffer>) => {
      for await (const piece of pieces) await writer.write(piece);
    });
    return await writer.keep();
  } catch (error) {
    await writer.drop();
    throw error;
  }
}

/** @returns `Statistics` as JSON */
export const readStatistics = ({ text, name }: { text: string; name: string }): string =>
  JSON.stringify(parseStatistics(text, name));

export interface TellTask {
  manifest: string;
  document: string;
  decided: LogDecision[];
  logs: {
    /** `ReadLog` and the sample as JSON, and `Statistics` where some came beside it. */
    body: string;
    sample: string;
    statistics: string | null;
    told: Pick<ShotLog, 'id' | 'name' | 'bytes' | 'createdAt'>;
  }[];
  /** Of our own newest render, as far as it is. */
  own: { lines: string[]; isOver: boolean; told: Pick<ShotLog, 'id' | 'name' | 'createdAt'> } | null;
}

/** `ShotLog[]` as JSON: logs, our own first, judged against the shot's files and what was decided for it. */
export function tellLogs({ manifest, document, decided, logs, own }: TellTask): string {
  const evidence = evidenceOf(JSON.parse(manifest) as object, JSON.parse(document) as ShotDocument);
  const kept = logs.map(({ body, sample, statistics, told }) => {
    const read = JSON.parse(body) as ReadLog;
    const log = statistics === null ? read : withStatistics(read, JSON.parse(statistics) as Statistics);
    return { log, sample: JSON.parse(sample) as string[], ...told };
  });
  const all = [...(own && own.lines.length ? [ownLog(own)] : []), ...kept];
  return JSON.stringify(
    all.map(({ log, ...told }): ShotLog => ({ ...log, ...triage(log, evidence, decided), ...told })),
  );
}

function ownLog({ lines, isOver, told }: NonNullable<TellTask['own']>) {
  const reading = new LogReading(ownFormat);
  const text = lines.join('\n');
  reading.push(text);
  const log = reading.end();
  // A render that goes on, or was stopped by hand, did not break off.
  return {
    log: { ...log, closed: log.closed || !isOver },
    bytes: text.length,
    sample: lines.slice(0, SAMPLE),
    ...told,
  };
}

/** By whole path, or by name alone: another renderer saw the shot from another folder. */
function evidenceOf(manifest: object, document: ShotDocument): LogEvidence {
  const names = (paths: string[]) => new Set(paths.flatMap((path) => [path, path.slice(path.lastIndexOf('/') + 1)]));
  const there = names(Object.keys(manifest));
  const wanted = names(referencedFiles(document));
  return {
    fileState(path) {
      const place = normalise(path.replaceAll('\\', '/'));
      const name = place.slice(place.lastIndexOf('/') + 1);
      if (there.has(place) || there.has(name)) return 'there';
      return wanted.has(place) || wanted.has(name) ? 'missing' : null;
    },
  };
}
