/** Motion: what moves in the document and stands still in the render, blur that is not there or off its way. */
import { ofRenders, type Family, type Words } from '../family.ts';
import { capital, listed } from '../words.ts';
import { motionCases, type ArcCase, type IdleCase, type MotionCase, type SharpCase, type StillCase } from './case.ts';
import { halfBakedTransform } from './causes/half-baked-transform.ts';
import { noBlur } from './causes/no-blur.ts';
import { samplesWithoutMotion } from './causes/samples-without-motion.ts';
import { staleCache } from './causes/stale-cache.ts';
import { staticFlag } from './causes/static-flag.ts';
import { tooFewSamples } from './causes/too-few-samples.ts';
import type { BakedCase } from './half-baked.ts';
import { blur } from './remedies/blur.ts';
import { dropStaleKeys } from './remedies/drop-stale-keys.ts';
import { motionSamples } from './remedies/motion-samples.ts';
import { scaleBack } from './remedies/scale-back.ts';
import { turnOn } from './remedies/turn-on.ts';
import type { StaleCase } from './stale-cache.ts';

export const motion: Family = {
  id: 'motion',
  title: 'Motion',
  healthy: 'What moves is rendered moving.',
  isEarly: true,
  render: ofRenders<MotionCase>({
    needs: () => ['beauty', 'error.beauty', 'object', 'object.coverage', 'motion'],
    cases: motionCases,
    causes: [staticFlag, staleCache, noBlur, tooFewSamples, samplesWithoutMotion, halfBakedTransform],
    remedies: [turnOn, dropStaleKeys, blur, motionSamples, scaleBack],
    tell,
    dials: ({ kind }) => (!OF_SAMPLES.includes(kind) ? [] : [{ pointer: '/motion/samples', needs: null, note: null }]),
    evidence: (of) => (of.kind === 'idle' || of.kind === 'baked' || of.kind === 'stale' ? [] : [{ kind: 'table', title: 'Across the picture', columns: ['', 'pixels'], rows: rowsOf(of) }]), // prettier-ignore
  }),
};

/** What motion samples have to do with. */
const OF_SAMPLES: readonly MotionCase['kind'][] = ['sharp', 'arc', 'idle'];

const pixels = (n: number): string => (n < 10 ? n.toFixed(1) : n.toFixed(0));

function rowsOf(of: StillCase | SharpCase | ArcCase): [string, number][] {
  const round = (n: number) => +n.toPrecision(3);
  if (of.kind === 'arc') return [['off its path', round(of.off)]];
  const travels: [string, number] = ['from this frame to the next', round(of.travels)];
  return of.kind === 'sharp' ? [travels] : [travels, ['from where it stands to where its keys put it', round(of.away)]];
}

function tell(of: MotionCase): Words {
  switch (of.kind) {
    case 'still':
      return tellStill(of);
    case 'sharp':
      return tellSharp(of);
    case 'arc':
      return tellArc(of);
    case 'idle':
      return tellIdle(of);
    case 'baked':
      return tellBaked(of);
    case 'stale':
      return tellStale(of);
  }
}

function tellStill({ name, keys, deforms, travels, away }: StillCase): Words {
  const way = travels >= 0.5 ? `Its keys take it ${pixels(travels)} pixels across the picture from this frame to the next.` : deforms ? 'Its shape changes from key to key.' : 'It moves in other frames of its keys.'; // prettier-ignore
  const place = away >= 1 ? `In this frame they put it ${pixels(away)} pixels from where it stands.` : '';
  return {
    sentence: `${capital(name)} has ${keys} keys and is rendered still.`,
    headline: `${capital(name)} is marked static`,
    why: [way, place, 'The flag wins over the keys.'].filter(Boolean).join(' '),
  };
}

function tellSharp({ by, objects, travels }: SharpCase): Words {
  return {
    sentence: `${capital(listed(objects))} ${objects.length === 1 ? 'moves' : 'move'} ${pixels(travels)} pixels a frame and ${objects.length === 1 ? 'is' : 'are'} rendered sharp.`,
    headline: by === 'shutter' ? 'The shutter is open for zero time' : 'One motion sample gives no blur',
    why: 'Without blur, fast motion strobes from frame to frame.',
  };
}

function tellArc({ name, samples, off }: ArcCase): Words {
  return {
    sentence: `The blur of ${name} is up to ${pixels(off)} pixels off its path.`,
    headline: `${samples} motion samples draw a turn as ${samples === 2 ? 'a straight line' : `${samples - 1} straight lines`}`,
    why: 'Between two motion samples an object moves in a straight line; one that turns far cuts the corner.',
  };
}

function tellIdle({ samples, moves }: IdleCase): Words {
  return {
    sentence: `${samples} motion samples are set, and nothing in view moves.`,
    headline: moves ? 'Nothing visibly moves while the shutter is open' : 'No object of the shot moves',
    why: 'They change nothing in the picture. Renderers that keep a copy of the scene for each of them pay in memory and time.',
  };
}

function tellBaked({ name, sibling, maps, scale, baked, jump }: BakedCase): Words {
  const times = jump > 1 ? `${+jump.toPrecision(2)} times as coarse` : `${+(1 / jump).toPrecision(2)} times as fine`;
  return {
    sentence: `${capital(listed(maps))} ${maps.length === 1 ? 'is' : 'are'} ${times} on ${name} as on ${sibling}.`,
    headline: `The scale of ${name} is baked into its mesh, and its maps are not`,
    why: `Both have the same shape. ${capital(sibling)} is scaled by ${+scale.toPrecision(3)} in its transform; ${name} by ${+baked.toPrecision(3)} in its vertices, and its transform has no scale. Maps placed by the object’s space follow the transform.`,
  };
}

function tellStale({ name, keys, frames, isWhole }: StaleCase): Words {
  const at = `frame${frames.length === 1 ? '' : 's'} ${listed(frames.map(String))}`;
  return isWhole
    ? {
        sentence: `${capital(name)} is deforming, and its ${keys} meshes are the same.`,
        headline: `The cache of ${name} holds one shape ${keys} times`,
        why: 'Meshes of different frames are identical to the last bit, which no simulation or rig produces: the cache was written without motion, or copied.',
      }
    : {
        sentence: `${capital(name)} stands still at ${at} between frames that move.`,
        headline: `The cache of ${name} was not rewritten at ${at}`,
        why: 'Its mesh there is identical to the frame before, under another name, while the frames around it move: it sticks, then jumps.',
      };
}
