/** `dusting ask`: what lights a place of the picture, what stands between, and which settings keep a shadow away. */
import type { ToldLight, ToldPlace } from '../core/contracts/place.ts';
import { tellPlace } from '../core/diagnose/shadows/tell-place.ts';
import { metres } from '../core/intake/preflight/tell.ts';
import { askPlace } from '../core/place/ask.ts';
import { LightWalk } from '../core/place/light-walk.ts';
import { settingsOf } from '../core/render/scene/scene.ts';
import { compiledWithKernel } from '../host/kernel.ts';
import { BadUse } from './bad-use.ts';
import { openShot } from './open-shot.ts';
import { parseOptions } from './options.ts';
import { pixelOption } from './pixel-option.ts';
import { sheetOption } from './sheet-option.ts';

export const ASK_USAGE = 'dusting ask <shot folder | scene> --pixel x,y [--light id] [--sheet preview|final] [--json]';

const OPTIONS = { pixel: { type: 'string' }, light: { type: 'string' }, sheet: { type: 'string', default: 'preview' }, json: { type: 'boolean', default: false } } as const; // prettier-ignore

export async function askCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseOptions(args, OPTIONS, ASK_USAGE);
  if (positionals.length !== 1) throw new BadUse(`Name one shot folder.\n${ASK_USAGE}`);
  const shot = await openShot(positionals[0], {});
  const { document } = shot;
  const sheet = document.sheets[sheetOption(values.sheet)];
  const [x, y] = pixelOption(values.pixel, sheet, ASK_USAGE);
  const scene = compiledWithKernel(document, await shot.load(document), sheet);
  const row = values.light === undefined ? null : scene.lightIds.indexOf(values.light);
  if (row === -1)
    throw new BadUse(`There is no light "${values.light}" that shines; there are ${scene.lightIds.join(', ')}.`);
  const settings = settingsOf(sheet);
  const walk = new LightWalk(scene, document, settings);
  const place = walk.surfaceAt(x, y);
  if (!place) throw new BadUse(`Pixel ${x},${y} shows no surface: there is nothing that light could fall on.`);
  const told = tellPlace(walk, sheet, [x, y], askPlace(walk, place, { settings, pixel: [x, y] }));
  const lights = row === null ? told.lights : told.lights.filter(({ id }) => id === values.light);
  console.log(values.json ? JSON.stringify({ ...told, lights }) : tell({ ...told, lights }));
}

const number = (value: number): string => String(+value.toPrecision(3));

function tell({
  pixel,
  object,
  metres: away,
  through,
  sentence,
  lights,
  direct,
  indirect,
  leftOut,
}: ToldPlace): string {
  const behind = through.length > 0 ? `, through ${through.join(' and ')}` : '';
  return [
    `Pixel ${pixel.join(',')}: ${object.name}, ${metres(+away.toPrecision(3))} away${behind}.`,
    sentence,
    '',
    ...lights.flatMap(tellLight),
    `${number(direct)} W/m² of direct light${indirect === null ? '' : `, ${number(indirect)} W/m² that bounces`}.`,
    ...(leftOut.lights > 0 ? [`${leftOut.lights} more lights were left out; unshadowed they would bring ${number(100 * leftOut.share)} % of the light.`] : []), // prettier-ignore
  ].join('\n');
}

function tellLight({
  id,
  name,
  verdict,
  unshadowed,
  arriving,
  metres: away,
  elevation,
  angle,
  contrast,
  blockers,
  remedies,
}: ToldLight): string[] {
  const facts = [
    `${number(arriving)} of ${number(unshadowed)} W/m²`,
    ...(away === null ? [] : [`${metres(+away.toPrecision(3))} away`]),
    ...(elevation === null ? [] : [`${elevation.toFixed(0)}° above the surface`]),
    ...(angle === null ? [] : [`${number(angle)}° wide`]),
    ...(contrast === null ? [] : [`shadow ${contrast.toFixed(2)} stops`]),
  ];
  return [
    `${name}${name === id ? '' : ` (${id})`}: ${verdict}`,
    `    ${facts.join(', ')}`,
    ...blockers.slice(0, 4).map((one) => `    ${metres(+one.metres.toPrecision(3))}  ${one.name}, before ${number(100 * one.share)} %${one.blocks ? '' : `: ${one.reasons.join('; ')}`}`), // prettier-ignore
    ...remedies.map(
      ({ title, stops }) =>
        `    → ${title}${stops === null ? '' : ` (${stops < 0 ? '−' : '+'}${Math.abs(stops).toFixed(2)} stops here)`}`,
    ),
  ];
}
