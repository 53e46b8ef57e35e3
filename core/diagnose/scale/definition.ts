/** Scale and distance: planes and rays that end too soon, and positions that are too coarse so far out. */
import { changeOf } from '../../figures/effect.ts';
import { metres } from '../../intake/preflight/tell.ts';
import type { Evidence } from '../../contracts/finding.ts';
import { ofRenders, type Family, type Words } from '../family.ts';
import { listed, percent } from '../words.ts';
import { scaleCases, type CoarseCase, type ScaleCase, type ShortRaysCase } from './case.ts';
import { cameraFar } from './causes/camera-far.ts';
import { cameraNear } from './causes/camera-near.ts';
import { offsetInTransforms } from './causes/offset-in-transforms.ts';
import { offsetInVertices } from './causes/offset-in-vertices.ts';
import { rayDistance } from './causes/ray-distance.ts';
import { singlePrecision } from './causes/single-precision.ts';
import type { ClipCase } from './clip.ts';
import { clip } from './remedies/clip.ts';
import { farther } from './remedies/farther.ts';
import { finer } from './remedies/finer.ts';

export const scale: Family = {
  id: 'scale',
  title: 'Scale and distance',
  healthy: 'The camera and its rays reach everything in view, and positions are finer than pixels.',
  isEarly: true,
  render: ofRenders<ScaleCase>({
    needs: () => ['beauty', 'error.beauty', 'cut.distance'],
    cases: scaleCases,
    causes: [cameraNear, cameraFar, rayDistance, singlePrecision, offsetInTransforms, offsetInVertices],
    remedies: [clip, farther, finer],
    figure: 'brightness',
    goesWith: (effect) => Math.min(1, Math.abs(changeOf(effect, 'brightness') ?? 0)),
    tell,
    dials: (of) => [{ pointer: dialOf(of), needs: null, note: null }],
    evidence,
  }),
};

function dialOf(of: ScaleCase): string {
  if (of.kind === 'near' || of.kind === 'far') return `/cameras/${of.document.camera}/${of.kind}`;
  return of.kind === 'rays' ? '/rayDistance' : '/precision';
}

function evidence(of: ScaleCase): Evidence[] {
  switch (of.kind) {
    case 'rays':
      return [{ kind: 'map', title: 'Light that ends by distance', pass: 'cut.distance', legend: [] }];
    case 'coarse':
      return [
        { kind: 'table', title: 'Positions against pixels', columns: ['', 'mm'], rows: [['between neighbouring positions', +(1000 * of.step).toPrecision(3)], ['a pixel', +(1000 * of.pixel).toPrecision(3)]] },
        { kind: 'table', title: 'Where the distance is', columns: ['', 'metres'], rows: [['placements', +of.offset.transforms.toPrecision(4)], ['vertices from their origins', +of.offset.vertices.toPrecision(4)]] },
      ]; // prettier-ignore
    default:
      return [{ kind: 'table', title: 'Along the camera’s axis', columns: ['', 'metres'], rows: [[`${of.kind} plane`, +of.plane.toPrecision(3)], [of.kind === 'near' ? 'nearest clipped' : 'farthest clipped', of.reaches === null ? '∞' : +of.reaches.toPrecision(3)]] }]; // prettier-ignore
  }
}

function tell(of: ScaleCase): Words {
  switch (of.kind) {
    case 'rays':
      return tellRays(of);
    case 'coarse':
      return tellCoarse(of);
    default:
      return tellClip(of);
  }
}

function tellClip({ kind, document, objects, plane, reaches, share }: ClipCase): Words {
  const camera = document.cameras[document.camera].name || document.camera;
  const cut = `${+(100 * share).toPrecision(2)} % of the picture`;
  return kind === 'near'
    ? {
        sentence: `The near plane clips ${listed(objects)}, in ${cut}.`,
        headline: `The near plane of ${camera} stands at ${metres(+plane.toPrecision(3))}; what it clips starts at ${metres(+reaches!.toPrecision(3))}`,
        why: 'Anything nearer is invisible, though it still casts shadows and shows in mirrors. A wall that is clipped entirely is taken as intended.',
      }
    : {
        sentence: `The far plane cuts off ${listed(objects)}, in ${cut}.`,
        headline: `The far plane of ${camera} stands at ${metres(+plane.toPrecision(3))}; what is in view reaches ${reaches === null ? 'the horizon' : metres(+reaches.toPrecision(3))}`,
        why: 'The background shows where surfaces should be; their light and shadows are still there.',
      };
}

function tellRays({ reach, farthest, share }: ShortRaysCase): Words {
  return {
    sentence: `Rays end after ${metres(reach)}: anything farther is missing from ${+(100 * share).toPrecision(2)} % of the picture.`,
    headline: `What is in view reaches ${farthest === null ? 'the horizon' : metres(+farthest.toPrecision(3))}; rays reach ${metres(reach)}`,
    why: 'Surfaces beyond are not hit: the background shows instead, and they cast no shadow. This causes missing shadows and missing objects alike.',
  };
}

function tellCoarse({ away, step, pixel, share }: CoarseCase): Words {
  const [mm, part] = [+(1000 * step).toPrecision(2), +(step / pixel).toPrecision(2)];
  return {
    sentence: `The shot stands ${metres(+away.toPrecision(3))} from the origin, where positions are ${mm} mm apart: ${part} of a pixel.`,
    headline: `Steps of ${mm} mm at ${metres(+away.toPrecision(3))}, pixels of ${+(1000 * pixel).toPrecision(2)} mm`,
    why: `Single precision has 24 bits per coordinate, which far out leaves few for detail: edges jitter from frame to frame, bumps and thin gaps are lost. This affects ${percent(share)} of the view.`,
  };
}
