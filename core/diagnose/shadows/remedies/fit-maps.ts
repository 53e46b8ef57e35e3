/** Depth maps that fit the camera: all of their settings at once, and those of each cause by itself. */
import type { PreviewShadowsSpec } from '../../../document/schema.ts';
import type { ControlValues } from '../../../document/set-values.ts';
import type { Proposal, Propose } from '../../family.ts';
import type { ShadowCase } from '../case.ts';
import { shareOfCause, type MapCause, type PreviewCase } from '../preview.ts';

type Key = keyof PreviewShadowsSpec;

const PARTS: { id: string; cause: MapCause; title: string; keys: Key[] }[] = [
  { id: 'distances', cause: 'shadows.map-distance', title: 'Distances that reach everything in view', keys: ['mapDistance', 'lightDistance', 'near'] },
  { id: 'nearer', cause: 'shadows.distance-too-coarse', title: 'Distances no greater than the view', keys: ['mapDistance', 'lightDistance'] },
  { id: 'texels', cause: 'shadows.map-resolution', title: 'As many texels as pixels', keys: ['resolution', 'cascades', 'splitBlend', 'depthBits'] },
  { id: 'leak', cause: 'shadows.map-leak', title: 'The same filter, tight enough not to leak', keys: ['filter', 'exponent', 'leakCut'] },
  { id: 'bias', cause: 'shadows.map-bias', title: 'The lowest bias without self-shadowing', keys: ['bias', 'slopeBias'] },
]; // prettier-ignore

/** Share of the wrong places from which on a cause has a remedy of its own. */
const WORTH = 0.1;

export const fitMaps: Propose<ShadowCase> = (of) => {
  if (of.kind !== 'preview') return null;
  const whole = changed(of, Object.keys(of.fitted.spec) as Key[]);
  const { texel, givesWay, fineFrom } = of.fitted;
  const note = givesWay ? `Texels stay up to ${texel.toFixed(1)} pixels wide${fineFrom === null ? '' : ` nearer than ${fineFrom.toPrecision(2)} m`}: no maps within reach are finer.` : undefined; // prettier-ignore
  const out: Proposal[] = Object.keys(whole).length
    ? [{ id: 'fit', title: 'Fit the preview’s depth maps to this camera', change: { kind: 'values', values: whole }, note }] // prettier-ignore
    : [];
  for (const { id, cause, title, keys } of PARTS) {
    const values = changed(of, keys);
    if (shareOfCause(of, cause) < WORTH || Object.keys(values).length === 0) continue;
    if (Object.keys(values).length === Object.keys(whole).length) continue;
    out.push({ id, title, change: { kind: 'values', values } });
  }
  return out;
};

function changed({ spec, fitted }: PreviewCase, keys: Key[]): ControlValues {
  return Object.fromEntries(keys.filter((key) => spec[key] !== fitted.spec[key]).map((key) => [`/previewShadows/${key}`, fitted.spec[key]])); // prettier-ignore
}
