/** Our sampling in a target's dials: what to type in there, and what it rests on. */
import { dialAt } from '../../document/dials.ts';
import { valueAt } from '../../document/patch.ts';
import type { Sheet } from '../../document/schema.ts';
import { depthIn } from './depth-in.ts';
import type { Target, TargetDial } from './target.ts';

export interface DialThere {
  name: string;
  value: string;
  from: string;
}

/** @example dialsIn(millrace, sheet); // 400 samples: "pixel root" 20 */
export function dialsIn(target: Target, sheet: Sheet): DialThere[] {
  if (target.dials === null) return [];
  const sampling = target.dials.map((dial) => {
    const value = valueOf(dial, sheet);
    const short = dial.most !== null && value > dial.most ? `; the target goes to ${dial.most}` : '';
    const times = dial.times.length ? `; times ${dial.times.join(', ')}` : '';
    const own = dial.ours.map((pointer) => `${dialAt(pointer).label.toLowerCase()} ${String(valueAt(sheet, pointer))}`);
    return { name: dial.name, value: String(within(dial, value)), from: own.join(', ') + times + short };
  });
  const depth = depthIn(target, sheet.limits).map(({ name, ours, value }) => ({
    name: `${name} limit`,
    value: String(Math.min(value, target.depth.most)),
    from: ours.map((kind) => `${kind} ${sheet.limits[kind]}`).join(', '),
  }));
  return [...sampling, ...depth];
}

/** One dial for several of ours takes the largest: no kind of light gets less than it had. */
function valueOf({ ours, counts }: TargetDial, sheet: Sheet): number {
  // Samples of a pixel and what splits at the hit multiply; where one dial stands for both, it stands for their product.
  const values = ours.map((pointer) => ({ pointer, n: Number(valueAt(sheet, pointer)) }));
  const pixel = values.filter(({ pointer }) => pointer === '/samples').reduce((product, { n }) => product * n, 1);
  const splits = Math.max(1, ...values.filter(({ pointer }) => pointer !== '/samples').map(({ n }) => n));
  const samples = pixel * splits;
  return counts === 'samples' ? samples : Math.ceil(Math.sqrt(samples));
}

const within = ({ least, most }: TargetDial, value: number): number =>
  Math.min(most ?? Infinity, Math.max(least ?? -Infinity, value));
