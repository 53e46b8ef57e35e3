/** The setting that makes the pass tell what it can. */
import type { ControlValues } from '../../../document/set-values.ts';
import { metres } from '../../../intake/preflight/tell.ts';
import type { Proposal, Propose } from '../../family.ts';
import type { OcclusionCase } from '../case.ts';

export const setRight: Propose<OcclusionCase> = (of) => {
  const { kind, curve, occlusion, enough, ids, objects, isNeutral } = of;
  const best = curve.best?.metres ?? 1;
  const one = (id: string, title: string, values: ControlValues, note?: string): Proposal => ({ id, title, change: { kind: 'values', values }, ...(note ? { note } : {}) }); // prettier-ignore
  switch (kind) {
    case 'closed':
    case 'long':
    case 'short':
      return one('distance', `An occlusion distance of ${metres(best)}`, { '/occlusion/distance': best });
    case 'inward': {
      const isWithin = curve.best !== null && (occlusion.distance ?? Infinity) >= curve.best.from && (occlusion.distance ?? Infinity) <= curve.best.to; // prettier-ignore
      return isWithin
        ? one('outward', 'Measure on the visible side', { '/occlusion/direction': 'outward' })
        : one('outward', `Measure on the visible side, up to ${metres(best)}`, { '/occlusion/direction': 'outward', '/occlusion/distance': best }); // prettier-ignore
    }
    case 'opaque':
      return one('see-through', 'Glass and cut-outs occlude by what they hold back', { '/occlusion/seeThrough': true });
    case 'faceted':
      return one('cone', `An occlusion cone of ${of.cone}°`, { '/occlusion/cone': of.cone }, 'It ignores what is at the horizon, so everything gets a little more open. A finer mesh keeps it.'); // prettier-ignore
    case 'few':
      return one('samples', `${enough} occlusion samples`, { '/extraSamples/occlusion': enough });
    case 'twice':
      if (!isNeutral) return one('pass', 'Occlusion as a pass alone', { '/occlusion/strength': 0 }, 'Its light is traced: enclosed areas are dark without it. The pass can still be multiplied in comp, as much as you like.'); // prettier-ignore
      return one('plain', 'Neutral material without occlusion', { '/neutral': 'neutral' }, 'Its light is traced: enclosed areas are dark without it.'); // prettier-ignore
    case 'itself':
      return one('exclude', `Occlusion rays pass ${objects![0]}`, { [`/objects/${ids[0]}/visibility/occlusion`]: false }, 'It then occludes nothing else either; merging its shells keeps that.'); // prettier-ignore
  }
};
