/** `dusting inspect`: what is in pictures, whoever made them: layers, windows, attributes, health. */
import { existsSync, statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { layersOf } from '../core/formats/layers.ts';
import { fileName } from '../core/formats/paths.ts';
import { readPictureFile, type PictureFile } from '../core/formats/picture-file.ts';
import type { PartFacts } from '../core/picture/brought.ts';
import { examinePicture } from '../core/picture/examine.ts';
import type { ChannelHealth, HealthFinding } from '../core/picture/health/check.ts';
import { inflate } from '../host/inflate.ts';
import { exrMeans, planeMeans } from '../host/kernel.ts';
import { BadUse } from './bad-use.ts';
import { parseOptions } from './options.ts';
import { EXIT_CODES } from './preflight.ts';

export const INSPECT_USAGE = `dusting inspect <picture: .exr .hdr .pfm .png .jpg .tif>… [--json]`;

const OPTIONS = { json: { type: 'boolean', default: false } } as const;

interface Inspected {
  path: string;
  format: string;
  parts: {
    name: string;
    compression: string;
    dataWindow: PartFacts['dataWindow'];
    displayWindow: PartFacts['displayWindow'];
    attributes: PartFacts['attributes'];
    channels: (Omit<ChannelHealth, 'places' | 'clipped' | 'histogram'> & { type: string })[];
  }[];
  findings: { severity: HealthFinding['severity']; id: string; sentence: string }[];
}

export async function inspectCommand(args: string[]): Promise<number> {
  const { values, positionals } = parseOptions(args, OPTIONS, INSPECT_USAGE);
  if (positionals.length === 0) throw new BadUse(`Name one picture at least.\n${INSPECT_USAGE}`);
  const files: Inspected[] = [];
  for (const path of positionals) {
    if (!existsSync(path) || !statSync(path).isFile()) throw new BadUse(`There is no file "${path}".`);
    const bytes = new Uint8Array(await readFile(path));
    files.push(inspected(path, await readPictureFile(bytes, fileName(path), { inflate, means: exrMeans() })));
  }
  console.log(values.json ? JSON.stringify({ files }) : files.map(tell).join('\n\n'));
  const severities = files.flatMap(({ findings }) => findings.map(({ severity }) => severity));
  return EXIT_CODES[severities.includes('stop') ? 'stop' : severities.includes('caution') ? 'caution' : 'clear'];
}

function inspected(path: string, file: PictureFile): Inspected {
  const { format, parts, health } = examinePicture(file, planeMeans());
  const of = new Map(health.channels.map((channel) => [channel.name, channel]));
  return {
    path,
    format,
    parts: parts.map(({ name, compression, dataWindow, displayWindow, attributes, channels }, part) => ({
      name,
      compression,
      dataWindow,
      displayWindow,
      attributes,
      channels: channels.flatMap((one, k) => {
        const known = of.get(one.name);
        if (!known) return [];
        const { min, max, mean, nan, infinite, negative } = known;
        // As it is in the file: among several parts, facts have the part's name before it.
        return [{ ...one, name: file.parts[part].channels[k].name, min, max, mean, nan, infinite, negative }];
      }),
    })),
    findings: health.findings.map(({ severity, id, sentence }) => ({ severity, id, sentence })),
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
