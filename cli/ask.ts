/** `dusting ask`: what lights a place of the picture or a region, what stands between, and which settings keep a shadow away. */
import type { ToldEnvironment, ToldLight, ToldPlace, ToldRegion } from '../core/contracts/place.ts';
import { skyAt, tellEnvironment } from '../core/diagnose/lighting/tell-environment.ts';
import { tellTint } from '../core/diagnose/shadows/tell-tint.ts';
import { tellPlace } from '../core/diagnose/shadows/tell-place.ts';
import { tellRegion } from '../core/diagnose/shadows/tell-region.ts';
import { percent } from '../core/diagnose/words.ts';
import { metres } from '../core/intake/preflight/tell.ts';
import { askPlace } from '../core/place/ask.ts';
import { askRegion } from '../core/place/ask-region.ts';
import { LightWalk } from '../core/place/light-walk.ts';
import { settingsOf } from '../core/render/scene/scene.ts';
import { compiledWithKernel } from '../host/kernel.ts';
import { BadUse } from './bad-use.ts';
import { openShot } from './open-shot.ts';
import { numbersOption, parseOptions } from './options.ts';
import { pixelOption } from './pixel-option.ts';
import { needInside } from './region.ts';
import { sheetOption } from './sheet-option.ts';

export const ASK_USAGE =
  'dusting ask <shot folder | scene> --pixel x,y | --region x,y,w,h [--light id] [--sheet preview|final] [--json]';

const OPTIONS = { pixel: { type: 'string' }, region: { type: 'string' }, light: { type: 'string' }, sheet: { type: 'string', default: 'preview' }, json: { type: 'boolean', default: false } } as const; // prettier-ignore

export async function askCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseOptions(args, OPTIONS, ASK_USAGE);
  if (positionals.length !== 1) throw new BadUse(`Name one shot folder.\n${ASK_USAGE}`);
  const shot = await openShot(positionals[0], {});
  const { document } = shot;
  const sheet = document.sheets[sheetOption(values.sheet)];
  const numbers = numbersOption('region', values.region, ',', 4, '100,50,320,180');
  const region = numbers && { x: numbers[0], y: numbers[1], width: numbers[2], height: numbers[3] };
  if (region && values.pixel) throw new BadUse(`Ask a pixel or a region, not both.\n${ASK_USAGE}`);
  if (region) needInside(region, sheet.width, sheet.height, 'the frame');
  const pixel = region ? null : pixelOption(values.pixel, sheet, ASK_USAGE);
  const scene = compiledWithKernel(document, await shot.load(document), sheet);
  const row = values.light === undefined ? null : scene.lightIds.indexOf(values.light);
  if (row === -1)
    throw new BadUse(`There is no light "${values.light}" that shines; there are ${scene.lightIds.join(', ')}.`);
  const settings = settingsOf(sheet);
  const walk = new LightWalk(scene, document, settings);
  const own = <T extends { id: string }>(lights: T[]) => (row === null ? lights : lights.filter(({ id }) => id === values.light)); // prettier-ignore
  if (region) {
    const answer = askRegion(walk, region, { settings, noiseTarget: sheet.grainTarget });
    if (!answer) throw new BadUse('The region shows no surface for light to fall on.');
    const told = tellRegion(walk, sheet, answer);
    const whole = { ...told, lights: own(told.lights), telling: { ...told.telling, lights: own(told.telling.lights) } };
    console.log(values.json ? JSON.stringify(whole) : [tellWhole(whole), tell(whole.telling)].join('\n'));
    return;
  }
  const place = walk.surfaceAt(...pixel!);
  if (!place) throw new BadUse(`Pixel ${pixel!.join()} shows no surface for light to fall on.`);
  const told = tellPlace(
    walk,
    sheet,
    pixel!,
    askPlace(walk, place, { settings, noiseTarget: sheet.grainTarget, pixel: pixel! }),
  );
  const environment = tellEnvironment(walk, [place], { direct: told.direct, environment: skyAt(told) }); // prettier-ignore
  const whole = { ...told, lights: own(told.lights) };
  console.log(values.json ? JSON.stringify({ ...whole, environment }) : [tell(whole), ...(environment ? [tellSky(environment)] : [])].join('\n')); // prettier-ignore
}

function tellWhole({ region, places, empty, sentence, lights }: ToldRegion): string {
  const none = empty > 0 ? `; ${empty} more show no surface` : '';
  return [
    `Region ${region.x},${region.y}, ${region.width} × ${region.height}: ${places} places${none}.`,
    sentence,
    '',
    ...lights.map(({ name, share, shaded, edge, missing, contrast, penumbra }) =>
      [
        `${name}: ${percent(share)} of the direct light`,
        `in shadow ${percent(shaded)}`,
        `at an edge ${percent(edge)}`,
        ...(missing > 0 ? [`shadow missing ${percent(missing)}`] : []),
        ...(contrast === null ? [] : [`shadow ${contrast.toFixed(2)} stops`]),
        ...(penumbra === null
          ? []
          : [`edges ${metres(+penumbra.metres.toPrecision(2))}, ${number(penumbra.pixels)} px`]),
      ].join(', '),
    ),
    '',
    'The place that tells most:',
  ].join('\n');
}

function tellSky({ level, hasSun, brightest, adds, rotation, turned }: ToldEnvironment): string {
  const most = turned.reduce((best, one) => (one.stops > best.stops ? one : best));
  return [
    `Environment: ${number(level)} W/m² on level ground${hasSun ? ' beside its sun' : ''}; its brightest 1 % brings ${percent(brightest.share)} of its light, from ${brightest.elevation.toFixed(0)}° above the horizon, azimuth ${brightest.azimuth.toFixed(0)}°.`,
    `    ${adds === null ? '' : `It adds ${adds.toFixed(1)} stops here. `}Turned from ${number(rotation)}° to ${number(most.rotation)}° it brings most: ${most.stops.toFixed(2)} stops more.`,
  ].join('\n');
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
  edgeRays,
  tint,
  blockers,
  remedies,
}: ToldLight): string[] {
  const facts = [
    `${number(arriving)} of ${number(unshadowed)} W/m²`,
    ...(away === null ? [] : [`${metres(+away.toPrecision(3))} away`]),
    ...(elevation === null ? [] : [`${elevation.toFixed(0)}° above the surface`]),
    ...(angle === null ? [] : [`${number(angle)}° wide`]),
    ...(contrast === null ? [] : [`shadow ${contrast.toFixed(2)} stops`]),
    ...(tint === null ? [] : [tellTint(tint)]),
    ...(edgeRays === null ? [] : [`edge clean at ${edgeRays.needed} shadow rays per pixel, ${edgeRays.now} now`]),
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
