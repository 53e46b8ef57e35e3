/** `dusting path`: one sample of one pixel, event by event, as the renderer traced it. */
import type { ShotDocument } from '../core/document/schema.ts';
import { tracePath, type TracedPath } from '../core/render/frame/told-path.ts';
import { settingsOf } from '../core/render/scene/scene.ts';
import { compiledWithKernel } from '../host/kernel.ts';
import { BadUse } from './bad-use.ts';
import { openShot } from './open-shot.ts';
import { parseOptions, wholeOption } from './options.ts';
import { pixelOption } from './pixel-option.ts';
import { sheetOption } from './sheet-option.ts';

export const PATH_USAGE =
  'dusting path <shot folder | scene> --pixel x,y [--sample n] [--sheet preview|final] [--json]';

const OPTIONS = { pixel: { type: 'string' }, sample: { type: 'string', default: '0' }, sheet: { type: 'string', default: 'preview' }, json: { type: 'boolean', default: false } } as const; // prettier-ignore

export async function pathCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseOptions(args, OPTIONS, PATH_USAGE);
  if (positionals.length !== 1) throw new BadUse(`Name one shot folder.\n${PATH_USAGE}`);
  const shot = await openShot(positionals[0], {});
  const { document } = shot;
  const sheet = document.sheets[sheetOption(values.sheet)];
  const [x, y] = pixelOption(values.pixel, sheet, PATH_USAGE);
  const sample = wholeOption('sample', values.sample, 0, sheet.samples - 1)!;
  const scene = compiledWithKernel(document, await shot.load(document), sheet);
  const told = tracePath(scene, settingsOf(sheet), x, y, sample);
  console.log(values.json ? JSON.stringify({ pixel: [x, y], sample, ...told }) : tell(told, document));
}

const short = (values: number[]): string => values.map((v) => +v.toPrecision(4)).join(', ');

function tell({ events, lights, rays }: TracedPath, document: ShotDocument): string {
  const lightsAfter = (n: number) =>
    lights
      .filter(({ after }) => after === n)
      .map(({ light, value }) => `      + ${+value.toPrecision(4)} of ${light ?? 'the background'}`);
  const lines = events.flatMap(({ kind, object, point, weight }, k) => [
    `${String(k + 1).padStart(3)}. ${kind.padEnd(13)}${(object === null ? 'fog' : document.objects[object].name || object).padEnd(24)} at ${short(point)}; weight ${short(weight)}`,
    ...lightsAfter(k + 1),
  ]);
  const rest = lights.filter(({ after }) => after > events.length);
  const all = lights.reduce((sum, { value }) => sum + value, 0);
  return [
    ...lightsAfter(0),
    ...lines,
    ...rest.map(({ light, value }) => `      + ${+value.toPrecision(4)} of ${light ?? 'the background'}`),
    `${events.length} events, ${rays} rays, luminance ${+all.toPrecision(5)}`,
  ].join('\n');
}
