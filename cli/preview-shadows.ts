/** `dusting preview-shadows`: a light's shadows by the depth maps of a real-time preview, beside those that are there. */
import type { ToldMaps } from '../core/contracts/preview-shadows.ts';
import { percent } from '../core/diagnose/words.ts';
import { validateDocument } from '../core/document/validate.ts';
import { metres } from '../core/intake/preflight/tell.ts';
import { LightWalk } from '../core/place/light-walk.ts';
import { settingsOf } from '../core/render/scene/scene.ts';
import { REASONS, type ReasonId } from '../core/shadow-map/reasons.ts';
import { MapTeller } from '../core/shadow-map/tell-maps.ts';
import { compiledWithKernel } from '../host/kernel.ts';
import { BadUse } from './bad-use.ts';
import { openShot } from './open-shot.ts';
import { parseOptions } from './options.ts';
import { setValues } from './set-values.ts';
import { sheetOption } from './sheet-option.ts';

export const PREVIEW_SHADOWS_USAGE =
  'dusting preview-shadows <shot folder | scene> [--light id] [--set mapDistance=500]… [--sheet preview|final] [--json]';

const OPTIONS = { light: { type: 'string' }, set: { type: 'string', multiple: true, default: [] as string[] }, sheet: { type: 'string', default: 'preview' }, json: { type: 'boolean', default: false } } as const; // prettier-ignore

export async function previewShadowsCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseOptions(args, OPTIONS, PREVIEW_SHADOWS_USAGE);
  if (positionals.length !== 1) throw new BadUse(`Name one shot folder.\n${PREVIEW_SHADOWS_USAGE}`);
  const shot = await openShot(positionals[0], {});
  const { document } = shot;
  const sheet = document.sheets[sheetOption(values.sheet)];
  const scene = compiledWithKernel(document, await shot.load(document), sheet);
  if (values.light !== undefined && !scene.lightIds.includes(values.light))
    throw new BadUse(`There is no light "${values.light}" that shines; there are ${scene.lightIds.join(', ')}.`);
  const teller = new MapTeller(new LightWalk(scene, document, settingsOf(sheet)), values.light ?? null);
  const fitting = teller.tell(document.previewShadows);
  if (!fitting) throw new BadUse('No light of the shot throws shadows by depth maps: an environment and lights of meshes have none.'); // prettier-ignore
  // Settings are turned on what the shot has, or, where it has none, on those that fit.
  const turned = setValues({ ...document, previewShadows: fitting.spec }, values.set.map((one) => `/previewShadows/${one}`)); // prettier-ignore
  const told = values.set.length ? teller.tell(validateDocument(turned, 'the shot').previewShadows)! : fitting;
  if (values.light !== undefined && told.light.id !== values.light)
    throw new BadUse(
      `Light "${values.light}" has no depth maps; there are those of ${told.lights.map(({ id }) => id).join(', ')}.`,
    );
  const { light, lights, spec, told: of, fitted } = told;
  console.log(values.json ? JSON.stringify({ light, lights, isKept: document.previewShadows !== null, spec, ...of, fitted }) : tell(told, values.set.length ? 'as set' : document.previewShadows ? 'as the shot has them' : 'that fit, for the shot has none of its own')); // prettier-ignore
}

/** Shares below it are no percent. */
const LEAST = 0.005;

const labelOf = (id: ReasonId): string => REASONS.find((one) => one.id === id)!.label;

/** @param which maps these are */
function tell({ light, spec, told, fitted }: ToldMaps, which: string): string {
  const { wrong, missing, reasons, together, texels, splits } = told;
  const turned = fitted && Object.entries(fitted.spec).filter(([key, value]) => spec[key as keyof typeof spec] !== value); // prettier-ignore
  return [
    `Shadows of ${light.name} by depth maps ${which}: ${percent(wrong)} of what it lights is wrong; ${percent(missing)} is lit but should be in shadow, ${percent(told.false)} is in shadow but should be lit.`,
    ...reasons.filter(({ share }) => share >= LEAST).map(({ id, share }) => `    ${percent(share)}  ${labelOf(id)}`),
    ...together.filter(({ share }) => share >= LEAST).map(({ ids, share }) => `    ${percent(share)}  ${ids.map(labelOf).join(' and ')}: raising either one alone brings nothing back`), // prettier-ignore
    `Texels: ${texels.median.toFixed(2)} px at the middle place, up to ${texels.most.toFixed(2)} px.${splits.length > 1 ? ` Cascades end at ${splits.map((at) => metres(+at.toPrecision(3))).join(', ')}.` : ''}`,
    ...(turned?.length ? [`→ Fits this camera: ${turned.map(([key, value]) => `${key}=${value}`).join(' ')}`] : []),
    ...(fitted?.givesWay ? [`    Texels stay up to ${fitted.texel.toFixed(1)} px wide: no maps within reach are finer.`] : []), // prettier-ignore
  ].join('\n');
}
