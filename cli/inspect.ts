/** `dusting inspect`: what is in pictures, whoever made them: layers, windows, attributes, health. */
import { existsSync, statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { readExr, type ExrPicture } from '../core/formats/exr/read.ts';
import { fileName } from '../core/formats/paths.ts';
import { readTexture } from '../core/formats/texture-readers.ts';
import { healthOf, type HealthFinding, type PictureHealth } from '../core/picture/health.ts';
import { layersOf } from '../core/formats/layers.ts';
import { inflate } from '../host/inflate.ts';
import { BadUse } from './bad-use.ts';
import { parseOptions } from './options.ts';
import { EXIT_CODES } from './preflight.ts';

export const INSPECT_USAGE = `dusting inspect <picture: .exr .hdr .pfm .png .jpg>… [--json]`;

const OPTIONS = { json: { type: 'boolean', default: false } } as const;

interface InspectedPart {
  name: string;
  compression: string;
  dataWindow: ExrPicture['dataWindow'];
  displayWindow: ExrPicture['displayWindow'];
  attributes: ExrPicture['attributes'];
  channels: (Omit<PictureHealth['channels'][number], 'places'> & { type: string })[];
}
interface Inspected {
  path: string;
  format: string;
  parts: InspectedPart[];
  findings: { severity: HealthFinding['severity']; id: string; sentence: string }[];
}

export async function inspectCommand(args: string[]): Promise<number> {
  const { values, positionals } = parseOptions(args, OPTIONS, INSPECT_USAGE);
  if (positionals.length === 0) throw new BadUse(`Name one picture at least.\n${INSPECT_USAGE}`);
  const files: Inspected[] = [];
  for (const path of positionals) {
    if (!existsSync(path) || !statSync(path).isFile()) throw new BadUse(`There is no file "${path}".`);
    const bytes = new Uint8Array(await readFile(path));
    files.push(/\.exr$/i.test(path) ? inspectExr(path, bytes) : inspectTexture(path, bytes));
  }
  console.log(values.json ? JSON.stringify({ files }) : files.map(tell).join('\n\n'));
  const severities = files.flatMap(({ findings }) => findings.map(({ severity }) => severity));
  return EXIT_CODES[severities.includes('stop') ? 'stop' : severities.includes('caution') ? 'caution' : 'clear'];
}

function inspectExr(path: string, bytes: Uint8Array): Inspected {
  const file = readExr(bytes, fileName(path), { inflate });
  const findings: Inspected['findings'] = [];
  const parts = file.parts.map((part, number): InspectedPart => {
    const types = new Map(part.channels.map(({ name, type }) => [name, type]));
    const health = healthOf({ ...part, types });
    const of = file.parts.length > 1 ? `Part ${part.name || number}: ` : '';
    const add = (severity: HealthFinding['severity'], id: string, sentence: string) => findings.push({ severity, id, sentence: of + sentence }); // prettier-ignore
    if (part.isDeep) add('caution', 'deep', 'it holds deep pixels, which are not read.');
    if (part.missingChunks)
      add('stop', 'cut-short', `${part.missingChunks} of its chunks are missing or broken${part.broken[0] ? ` (${part.broken[0]})` : ''}: the file is cut short.`); // prettier-ignore
    const { dataWindow: d, displayWindow: w } = part;
    if (d.minX !== w.minX || d.minY !== w.minY || d.maxX !== w.maxX || d.maxY !== w.maxY)
      add('note', 'windows', `its data window, ${d.minX}, ${d.minY} to ${d.maxX}, ${d.maxY}, is not its display window, ${w.minX}, ${w.minY} to ${w.maxX}, ${w.maxY}.`); // prettier-ignore
    for (const { severity, id, sentence } of health.findings) add(severity, id, sentence);
    return {
      name: part.name,
      compression: part.compression,
      dataWindow: part.dataWindow,
      displayWindow: part.displayWindow,
      attributes: part.attributes,
      channels: health.channels.map(({ name, min, max, mean, nan, infinite, negative }) => ({ name, type: types.get(name)!, min, max, mean, nan, infinite, negative })), // prettier-ignore
    };
  });
  return { path, format: 'OpenEXR', parts, findings };
}

function inspectTexture(path: string, bytes: Uint8Array): Inspected {
  const { width, height, texels, alpha } = readTexture(bytes, /\.(png|jpe?g)$/i.test(path) ? 'srgb' : 'linear', path);
  const planes = new Map<string, Float32Array>(['R', 'G', 'B'].map((name, c) => [name, texels.filter((_, i) => i % 3 === c)])); // prettier-ignore
  if (alpha) planes.set('A', alpha);
  const { channels, findings } = healthOf({ width, height, planes, types: new Map() });
  const window = { minX: 0, minY: 0, maxX: width - 1, maxY: height - 1 };
  const type = /\.(png|jpe?g)$/i.test(path) ? 'uint' : 'float';
  return {
    path,
    format: fileName(path).split('.').pop()!.toUpperCase(),
    parts: [
      {
        name: '',
        compression: '',
        dataWindow: window,
        displayWindow: window,
        attributes: {},
        channels: channels.map(({ name, min, max, mean, nan, infinite, negative }) => ({ name, type, min, max, mean, nan, infinite, negative })), // prettier-ignore
      },
    ],
    findings,
  };
}

function tell({ path, format, parts, findings }: Inspected): string {
  const figure = (value: number) => value.toPrecision(4).padStart(11);
  return [
    `${path}: ${format}, ${parts.length} ${parts.length === 1 ? 'part' : 'parts'}`,
    ...parts.flatMap(({ name, compression, dataWindow: d, channels }) => {
      const roles = new Map(layersOf(channels.map((one) => one.name)).flatMap((layer) => layer.channels.map((one) => [one, layer.role]))); // prettier-ignore
      return [
        `${name || 'picture'}: ${d.maxX - d.minX + 1} × ${d.maxY - d.minY + 1} pixels from ${d.minX}, ${d.minY}${compression ? `, ${compression}` : ''}`,
        `${'channel'.padEnd(34)}${'type'.padEnd(7)}${'least'.padStart(11)}${'most'.padStart(11)}${'mean'.padStart(11)}`,
        ...channels.map((one) => `${one.name.padEnd(34)}${one.type.padEnd(7)}${figure(one.min)}${figure(one.max)}${figure(one.mean)}  ${roles.get(one.name)}`), // prettier-ignore
      ];
    }),
    ...findings.map(({ severity, sentence }) => `${severity.padEnd(8)}${sentence}`),
  ].join('\n');
}
