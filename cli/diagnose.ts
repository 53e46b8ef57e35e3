/** `dusting diagnose`: what is wrong with a shot, or with pictures by themselves, and what would cure it; worst first. */
import { existsSync, statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import type { FindingWithMask, Severity } from '../core/contracts/finding.ts';
import { isInRegion, type Region } from '../core/data/picture.ts';
import type { RenderedWith } from '../core/diagnose/pictures/plan-in-numbers.ts';
import type { PictureFinding, PictureToDiagnose } from '../core/diagnose/pictures/picture-diagnosis.ts';
import { diagnosePicture, meanOfHalves, pictureDiagnoses, toDiagnose } from '../core/diagnose/pictures/registry.ts';
import { diagnoses, neededPasses } from '../core/diagnose/registry.ts';
import { varying } from '../core/diagnose/vary.ts';
import type { Sheet, ShotDocument } from '../core/document/schema.ts';
import { fileName } from '../core/formats/paths.ts';
import { readPictureFile } from '../core/formats/picture-file.ts';
import { isPictureName } from '../core/formats/picture-names.ts';
import { frameOf } from '../core/picture/sequence/names.ts';
import { readSettings } from '../core/picture/settings-record.ts';
import { pilotSeed } from '../core/predict/seeds.ts';
import { pictureOf } from '../core/render/film/film-picture.ts';
import { GROUP } from '../core/render/film/random.ts';
import { settingsOf } from '../core/render/scene/scene.ts';
import { inflate } from '../host/inflate.ts';
import { compiledWithKernel, exrMeans } from '../host/kernel.ts';
import { BadUse } from './bad-use.ts';
import { openShot } from './open-shot.ts';
import { numbersOption, parseOptions } from './options.ts';
import { EXIT_CODES } from './preflight.ts';
import { needInside } from './region.ts';
import { targetOf } from './target.ts';
import { renderFrame } from './render-frame.ts';

export const DIAGNOSE_USAGE = `dusting diagnose <shot folder | picture…> [--family a,b] [--region x,y,w,h] [--halves] [--settings file] [--target name] [--json]
  --halves: the two pictures are one, rendered with half its samples each by other random numbers
  --settings record.json|record.csv: what pictures were rendered with; --target name|target.json: whose dials those are`;

const OPTIONS = { family: { type: 'string' }, region: { type: 'string' }, halves: { type: 'boolean', default: false }, settings: { type: 'string' }, target: { type: 'string' }, json: { type: 'boolean', default: false } } as const; // prettier-ignore

/** A finding of a shot, in the form that those of pictures have. */
type ToldFinding = Omit<PictureFinding, 'remedies'> & {
  remedies: { title: string; patch: Record<string, unknown> | null; predicted: Record<string, unknown> }[];
};

export async function diagnoseCommand(args: string[]): Promise<number> {
  const { values, positionals } = parseOptions(args, OPTIONS, DIAGNOSE_USAGE);
  if (positionals.length === 0) throw new BadUse(`Name a shot folder, or pictures.\n${DIAGNOSE_USAGE}`);
  const families = values.family?.split(',').map((one) => one.trim());
  const known = [...new Set([...pictureDiagnoses.map(({ family }) => family), ...diagnoses.map(({ id }) => id)])];
  for (const family of families ?? [])
    if (!known.includes(family)) throw new BadUse(`There is no family "${family}"; there are ${known.join(', ')}.`);
  const numbers = numbersOption('region', values.region, ',', 4, '100,50,320,180');
  const region = numbers ? { x: numbers[0], y: numbers[1], width: numbers[2], height: numbers[3] } : null;
  const arePictures = positionals.every(isPictureName);
  if (!arePictures && positionals.length > 1) throw new BadUse(`Name one shot folder, or pictures alone.\n${DIAGNOSE_USAGE}`); // prettier-ignore
  if (values.halves && !(arePictures && positionals.length === 2)) throw new BadUse(`--halves needs two pictures.\n${DIAGNOSE_USAGE}`); // prettier-ignore
  if ((values.settings ?? values.target) !== undefined && !arePictures) throw new BadUse(`--settings and --target are of pictures.\n${DIAGNOSE_USAGE}`); // prettier-ignore
  const findings = arePictures
    ? await ofPictures(positionals, families, region, values.halves, await renderedWithOf(values))
    : await ofShot(positionals[0], families, region);
  console.log(values.json ? JSON.stringify({ findings }) : findings.map(tell).join('\n') || 'Nothing was found.');
  const severities = findings.map(({ severity }) => severity);
  return EXIT_CODES[severities.includes('stop') ? 'stop' : severities.includes('caution') ? 'caution' : 'clear'];
}

async function ofPictures(
  paths: string[],
  families: string[] | undefined,
  region: Region | null,
  areHalves: boolean,
  told: Partial<RenderedWith>,
): Promise<ToldFinding[]> {
  const read: Read[] = [];
  for (const path of paths) {
    if (!existsSync(path) || !statSync(path).isFile()) throw new BadUse(`There is no file "${path}".`);
    const file = await readPictureFile(new Uint8Array(await readFile(path)), fileName(path), { inflate, means: exrMeans() }); // prettier-ignore
    const part = file.parts.find((one) => !one.isDeep);
    if (region && part) needInside(region, part.width, part.height, path);
    const picture = toDiagnose(file, region);
    if (!picture) throw new BadUse(`${path} has no colours to look at.`);
    read.push({ path, picture: { ...picture, renderedWith: { ...picture.renderedWith!, ...told } } });
  }
  if (areHalves) return ofHalves(read[0], read[1], families);
  return read.flatMap(({ path, picture }) => {
    const beside = read.filter((other) => isBeside(path, other.path) && other.picture.luminance.length === picture.luminance.length); // prettier-ignore
    const found = diagnosePicture({ ...picture, beside: beside.map((other) => other.picture.luminance) }, families);
    return found.map((finding) => ({ ...finding, evidence: { ...finding.evidence, picture: path } }));
  });
}

/** What the command says of settings, which goes before what a file says of itself. */
async function renderedWithOf({
  settings,
  target,
}: {
  settings?: string;
  target?: string;
}): Promise<Partial<RenderedWith>> {
  if (settings !== undefined && !existsSync(settings)) throw new BadUse(`There is no file "${settings}".`);
  return {
    ...(settings === undefined ? {} : { record: readSettings(await readFile(settings, 'utf8'), settings) }),
    ...(target === undefined ? {} : { target: await targetOf(target) }),
  };
}

interface Read {
  path: string;
  picture: PictureToDiagnose;
}

function ofHalves(a: Read, b: Read, families: string[] | undefined): ToldFinding[] {
  const [p, q] = [a.picture, b.picture];
  if (p.width !== q.width || p.height !== q.height)
    throw new BadUse(`${a.path} is ${p.width} × ${p.height} pixels and ${b.path} ${q.width} × ${q.height}: halves of one picture are of one size.`); // prettier-ignore
  if (p.luminance.every((y, i) => y === q.luminance[i]))
    throw new BadUse(`${a.path} and ${b.path} are the same, pixel by pixel: halves are rendered with other seeds.`);
  const found = diagnosePicture(meanOfHalves(p, q), families);
  return found.map((finding) => ({ ...finding, evidence: { ...finding.evidence, picture: `${a.path} + ${b.path}` } }));
}

/** Frames of one sequence that follow each other. */
function isBeside(a: string, b: string): boolean {
  const [p, q] = [frameOf(fileName(a)), frameOf(fileName(b))];
  return p.stem === q.stem && p.frame !== null && q.frame !== null && Math.abs(p.frame - q.frame) === 1;
}

/** Renders the preview sheet and looks for causes in it. Causes are looked for in whole frames; those that are kept show in the region. */
async function ofShot(path: string, families: string[] | undefined, region: Region | null): Promise<ToldFinding[]> {
  const shot = await openShot(path, {});
  const { document } = shot;
  const sheet = document.sheets.preview;
  if (region) needInside(region, sheet.width, sheet.height, 'the frame');
  const assets = await shot.load(document);
  const scene = compiledWithKernel(document, assets, sheet);
  const window = { x: 0, y: 0, width: sheet.width, height: sheet.height };
  const { films } = await renderFrame({ ...scene, rays: null }, settingsOf(sheet), window, sheet.samples / GROUP, availableParallelism(), () => {}); // prettier-ignore
  const picture = pictureOf(films, window, neededPasses(), scene.layout);
  const compile = (changed: ShotDocument, its: Sheet) => compiledWithKernel(changed, assets, its);
  const input = { document, sheet, scene, picture, pilotSeed: pilotSeed(1), vary: varying(document, 'preview', sheet, compile) }; // prettier-ignore
  return diagnoses
    .filter(({ id }) => families?.includes(id) ?? true)
    .flatMap((one) => one.examine(input))
    .map((found) => toTold(found, region ?? window, sheet.width))
    .filter(({ where }) => where.pixels > 0)
    .sort((a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity));
}
const ORDER: Severity[] = ['stop', 'caution', 'note'];

/** @param region whose pixels are counted. @param stride columns of the frame */
const toTold = ({ finding, mask }: FindingWithMask, region: Region, stride: number): ToldFinding => ({
  family: finding.family,
  cause: finding.cause,
  severity: finding.severity,
  sentence: finding.sentence,
  where: {
    region: finding.region,
    pixels: mask.reduce((sum, one, i) => (isInRegion(region, i % stride, Math.floor(i / stride)) ? sum + one : sum), 0),
    objects: [],
    passes: finding.passes,
  },
  evidence: { why: finding.why, dials: finding.dials },
  remedies: finding.remedies.map(({ title, values, predicted }) => ({ title, patch: values, predicted: { ...predicted } })), // prettier-ignore
});

function tell({ severity, sentence, evidence, remedies }: ToldFinding): string {
  const of = typeof evidence.picture === 'string' ? `${evidence.picture}: ` : '';
  return [`${severity.padEnd(8)} ${of}${sentence}`, ...remedies.map(({ title }) => `         → ${title}`)].join('\n');
}
