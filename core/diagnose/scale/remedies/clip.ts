/** Planes of the camera that leave what is in view whole. */
import { metres } from '../../../intake/preflight/tell.ts';
import type { Propose } from '../../family.ts';
import type { ScaleCase } from '../case.ts';

/** Before the nearest that is cut, and beyond the farthest. */
const BEFORE = 0.5;
const BEYOND = 1.25;

export const clip: Propose<ScaleCase> = (of) => {
  if (of.kind !== 'near' && of.kind !== 'far') return null;
  const at = `/cameras/${of.document.camera}/${of.kind}`;
  if (of.kind === 'near') {
    const near = +(of.reaches! * BEFORE).toPrecision(2);
    return { id: 'near', title: `Near plane at ${metres(near)}`, change: { kind: 'values', values: { [at]: near } } };
  }
  if (of.reaches === null)
    return { id: 'far', title: 'No far plane', change: { kind: 'values', values: { [at]: null } } };
  const far = +(of.reaches * BEYOND).toPrecision(2);
  return { id: 'far', title: `Far plane at ${metres(far)}`, change: { kind: 'values', values: { [at]: far } } };
};
