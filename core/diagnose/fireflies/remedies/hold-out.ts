/**
 * The clamp for those objects alone that the fireflies are on, where it would dim something else: they are rendered by themselves with
 * it and put together with the rest, which is rendered without. No single render has two clamps.
 *
 * Source: Porter & Duff, "Compositing Digital Images", SIGGRAPH 1984.
 */
import { channel } from '../../../data/picture.ts';
import { holdOutPair } from '../../../document/hold-out.ts';
import { objectNames } from '../../../document/object-names.ts';
import { dulled, enoughOf } from '../clamp-curve.ts';
import { TOLD_KIND, tellClamp } from './clamp.ts';
import { tellObjects, type ProposeCure } from './proposal.ts';

/** Share of the fireflies that must be on few objects, and how many that is. */
const MOST_OF_THEM = 0.9;
const FEW = 6;
/** Stops that something else must lose by the clamp. */
const DIMMED = -0.25;

export const holdOut: ProposeCure = (of) => {
  const { input, document, at, here, kind, curve } = of;
  const { clamp, left } = enoughOf(curve);
  const losses = dulled(input.picture, kind, clamp);
  const [worst] = losses;
  if (!worst || worst.stops > DIMMED) return null;

  const objects = channel(input.picture, 'object');
  const counts = new Map<number, number>();
  for (const i of at) if (objects[i] > 0) counts.set(objects[i] - 1, (counts.get(objects[i] - 1) ?? 0) + 1);
  const byCount = [...counts].sort(([, a], [, b]) => b - a).slice(0, FEW);
  const chosen: number[] = [];
  let on = 0;
  for (const [object, n] of byCount) {
    if (on >= MOST_OF_THEM * at.length) break;
    chosen.push(object);
    on += n;
  }
  if (on < MOST_OF_THEM * at.length || chosen.includes(worst.object)) return null;
  const ids = chosen.map((object) => of.scene.objectIds[object]);
  try {
    holdOutPair(document, ids);
  } catch {
    return null;
  }
  const names = objectNames(document);
  const own = losses.find(({ object }) => chosen.includes(object));
  const remains = 1 - (on / at.length) * (1 - left);
  return {
    id: `hold-out-clamp-${kind}`,
    title: `Hold out ${tellObjects(of, ids)}, and clamp ${TOLD_KIND[kind]} at ${tellClamp(clamp)} on them alone`,
    change: { kind: 'hold-out', objects: ids, values: { [`/clamps/${kind}`]: clamp } },
    left: Math.round(here * remains),
    dulls: own ? { object: names[own.object], stops: own.stops } : null,
    numbers: { clamp },
    note: `${names[worst.object]} keeps the ${(-worst.stops).toFixed(1)} stops that the clamp over all would take. It takes two renders, which are added.`,
  };
};
