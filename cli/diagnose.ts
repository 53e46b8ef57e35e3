/** `dusting diagnose`: what is wrong with a shot, or with pictures by themselves, and what would cure it; worst first. */
import { existsSync, statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import type { Finding, FindingWithMask } from '../core/contracts/finding.ts';
import { isInRegion, type Region } from '../core/data/picture.ts';
import type { Family } from '../core/diagnose/family.ts';
import type { RenderedWith } from '../core/diagnose/noise/plan-in-numbers.ts';
import { meanOfHalves, pictureInput, type PictureInput } from '../core/diagnose/picture-input.ts';
import { FAMILIES, neededPasses } from '../core/diagnose/registry.ts';
import { diagnosePicture, diagnoseRender } from '../core/diagnose/run.ts';
import { varying } from '../core/diagnose/vary.ts';
import { together, versionFindings } from '../core/diagnose/version-findings.ts';
import type { Sheet, ShotDocument } from '../core/document/schema.ts';
import { toldOf, tellFigure } from '../core/figures/effect.ts';
import { fileName } from '../core/formats/paths.ts';
import { readPictureFile } from '../core/formats/picture-file.ts';
import { isPictureName } from '../core/formats/picture-names.ts';
import { defaultProfile } from '../core/intake/preflight/profile.ts';
import { runPreflight } from '../core/intake/preflight/run.ts';
import { frameOf } from '../core/picture/sequence/names.ts';
import { readSettings } from '../core/picture/settings-record.ts';
import { pilotSeed } from '../core/predict/seeds.ts';
import type { Assets } from '../core/render/compile/assets.ts';
import { pictureOf } from '../core/render/film/film-picture.ts';
import { GROUP } from '../core/render/film/random.ts';
import { settingsOf, type CompiledScene } from '../core/render/scene/scene.ts';
import { inflate } from '../host/inflate.ts';
import { compiledWithKernel, exrMeans } from '../host/kernel.ts';
import { BadUse } from './bad-use.ts';
import { openForIntake } from './open-scene.ts';
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

/** A finding as scripts get it: of a picture with the file it is about. */
type ToldFinding = Finding & { picture?: string };

export async function diagnoseCommand(args: string[]): Promise<number> {
  const { values, positionals } = parseOptions(args, OPTIONS, DIAGNOSE_USAGE);
  if (positionals.length === 0) throw new BadUse(`Name a shot folder, or pictures.\n${DIAGNOSE_USAGE}`);
  const wanted = values.family?.split(',').map((one) => one.trim());
  const families = wanted ? wanted.map(familyOf) : FAMILIES;
  const numbers = numbersOption('region', values.region, ',', 4, '100,50,320,180');
  const region = numbers ? { x: numbers[0], y: numbers[1], width: numbers[2], height: numbers[3] } : null;
  const arePictures = positionals.every(isPictureName);
  if (!arePictures && positionals.length > 1) throw new BadUse(`Name one shot folder, or pictures alone.\n${DIAGNOSE_USAGE}`); // prettier-ignore
  if (values.halves && !(arePictures && positionals.length === 2)) throw new BadUse(`--halves needs two pictures.\n${DIAGNOSE_USAGE}`); // prettier-ignore
  if ((values.settings ?? values.target) !== undefined && !arePictures) throw new BadUse(`--settings and --target are of pictures.\n${DIAGNOSE_USAGE}`); // prettier-ignore
  const findings = arePictures
    ? await ofPictures(positionals, families, region, values.halves, await renderedWithOf(values))
    : await ofShot(positionals[0], families, region, wanted);
  console.log(
    values.json ? JSON.stringify({ findings }) : findings.map(tell).join('\n') || tellHealthy(families, arePictures),
  );
  const severities = findings.map(({ severity }) => severity);
  return EXIT_CODES[severities.includes('stop') ? 'stop' : severities.includes('caution') ? 'caution' : 'clear'];
}

async function ofPictures(
  paths: string[],
  families: readonly Family[],
  region: Region | null,
  areHalves: boolean,
  told: Partial<RenderedWith>,
): Promise<ToldFinding[]> {
  const read: Read[] = [];
  const broken: ToldFinding[] = [];
  for (const path of paths) {
    if (!existsSync(path) || !statSync(path).isFile()) throw new BadUse(`There is no file "${path}".`);
    const file = await readPictureFile(new Uint8Array(await readFile(path)), fileName(path), { inflate, means: exrMeans() }); // prettier-ignore
    const missing = file.parts.reduce((sum, { missingChunks }) => sum + missingChunks, 0);
    if (missing) {
      broken.push({
        ...cutShort(
          missing,
          file.parts.flatMap((one) => one.broken),
        ),
        picture: path,
      });
      continue;
    }
    const part = file.parts.find((one) => !one.isDeep);
    if (region && part) needInside(region, part.width, part.height, path);
    const picture = pictureInput(file, region);
    if (!picture) throw new BadUse(`${path} has no colours to look at.`);
    read.push({ path, picture: { ...picture, renderedWith: { ...picture.renderedWith!, ...told } } });
  }
  if (areHalves && broken.length === 0) return ofHalves(read[0], read[1], families);
  const found = read.flatMap(({ path, picture }) => {
    const beside = read.filter((other) => isBeside(path, other.path) && other.picture.luminance.length === picture.luminance.length); // prettier-ignore
    const found = diagnosePicture({ ...picture, beside: beside.map((other) => other.picture.luminance) }, families);
    return found.map((finding) => ({ ...finding, picture: path }));
  });
  return [...broken, ...found];
}

/** Of a picture that ends early nothing is measured: what is missing reads as black. */
const cutShort = (missing: number, broken: string[]): Finding => ({
  of: 'picture',
  family: 'preflight',
  cause: 'preflight.file-cut-short',
  causes: [{ id: 'preflight.file-cut-short', share: 1 }],
  key: 'preflight.file-cut-short',
  severity: 'stop',
  sentence: `${missing === 1 ? 'One of its chunks is' : `${missing} of its chunks are`} missing or broken: the file is cut short, and nothing was measured.`,
  headline: 'The render or the copy of it ended early',
  why: broken[0] ?? 'Chunks that its table names are not in the file.',
  where: { region: null, pixels: 0, objects: [], passes: [] },
  dials: [],
  evidence: [],
  remedies: [],
});

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
  picture: PictureInput;
}

function ofHalves(a: Read, b: Read, families: readonly Family[]): ToldFinding[] {
  const [p, q] = [a.picture, b.picture];
  if (p.width !== q.width || p.height !== q.height)
    throw new BadUse(`${a.path} is ${p.width} × ${p.height} pixels and ${b.path} ${q.width} × ${q.height}: halves of one picture are of one size.`); // prettier-ignore
  if (p.luminance.every((y, i) => y === q.luminance[i]))
    throw new BadUse(`${a.path} and ${b.path} are the same, pixel by pixel: halves are rendered with other seeds.`);
  const found = diagnosePicture(meanOfHalves(p, q), families);
  return found.map((finding) => ({ ...finding, picture: `${a.path} + ${b.path}` }));
}

/** Frames of one sequence that follow each other. */
function isBeside(a: string, b: string): boolean {
  const [p, q] = [frameOf(fileName(a)), frameOf(fileName(b))];
  return p.stem === q.stem && p.frame !== null && q.frame !== null && Math.abs(p.frame - q.frame) === 1;
}

/**
 * Checks the shot as a version, renders the preview sheet and looks for causes in it. Causes are looked for in whole frames;
 * those that are kept show in the region.
 */
async function ofShot(
  path: string,
  families: readonly Family[],
  region: Region | null,
  wanted: string[] | undefined,
): Promise<ToldFinding[]> {
  const shot = await openShot(path, {});
  const { document } = shot;
  const sheet = document.sheets.preview;
  if (region) needInside(region, sheet.width, sheet.height, 'the frame');
  const { source, document: own } = await openForIntake(path);
  const ofVersion = versionFindings(runPreflight(source, defaultProfile(), own));
  const assets = await shot.load(document);
  const scene = compiledWithKernel(document, assets, sheet);
  const window = { x: 0, y: 0, width: sheet.width, height: sheet.height };
  const { films } = await renderFrame({ ...scene, kernel: null }, settingsOf(sheet), window, sheet.samples / GROUP, availableParallelism(), () => {}); // prettier-ignore
  const picture = pictureOf(films, window, neededPasses(scene.layout), scene.layout);
  const compile = (changed: ShotDocument, its: Sheet, like: CompiledScene, files: Assets) => compiledWithKernel(changed, files, its, like); // prettier-ignore
  const vary = varying({ document, sheetName: 'preview', sheet, scene, assets, compile });
  const input = {
    document,
    sheet,
    scene,
    assets,
    picture,
    pilotSeed: pilotSeed(1),
    vary,
    clock: () => performance.now(),
  };
  const ofRender = diagnoseRender(input, families)
    .map((found) => inRegion(found, region ?? window, sheet.width))
    .filter(({ where }) => where.pixels > 0 || where.region === null);
  // A region asks what is seen in it; a version is checked as a whole.
  const checked = region ? [] : ofVersion.filter(({ family }) => wanted?.includes(family) ?? true);
  return together(ofRender, checked);
}

/** @param region whose pixels are counted. @param stride columns of the frame */
function inRegion({ finding, mask }: FindingWithMask, region: Region, stride: number): Finding {
  if (!mask) return finding;
  const pixels = mask.reduce((sum, one, i) => (isInRegion(region, i % stride, Math.floor(i / stride)) ? sum + one : sum), 0); // prettier-ignore
  return { ...finding, where: { ...finding.where, pixels } };
}

/** What each family that looked says where nothing is wrong. */
const tellHealthy = (families: readonly Family[], arePictures: boolean): string =>
  families.flatMap(({ render, picture, healthy }) => ((arePictures ? picture : render) ? [healthy] : [])).join('\n');

function familyOf(id: string): Family {
  const family = FAMILIES.find((one) => one.id === id);
  if (!family) throw new BadUse(`There is no family "${id}"; there are ${FAMILIES.map((one) => one.id).join(', ')}.`);
  return family;
}

function tell({ severity, cause, sentence, picture, remedies }: ToldFinding): string {
  const of = picture === undefined ? '' : `${picture}: `;
  return [
    `${severity.padEnd(8)} ${of}${sentence} [${cause}]`,
    ...remedies.map(({ title, predicted }) => {
      const told = predicted ? toldOf(predicted).map(tellFigure).join(', ') : '';
      return `         → ${title}${told && ` (${told})`}`;
    }),
  ].join('\n');
}
