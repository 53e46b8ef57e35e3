/** What moves by the document and not in the picture, or not as it should; and motion that is paid for and not there. */
import type { ObjectSpec, Sheet, ShotDocument } from '../../document/schema.ts';
import type { Case, RenderInput } from '../family.ts';
import { maskOf, pixelsByObject, regionOf } from '../regions.ts';
import { bakedCases, type BakedCase } from './half-baked.ts';
import { keyed, Paths } from './path.ts';
import { staleCases, type StaleCase } from './stale-cache.ts';

export interface StillCase extends Case {
  kind: 'still';
  id: string;
  name: string;
  keys: number;
  deforms: boolean;
  /** Pixels: on its way from this frame to the next, and from where it stands to where its keys put it. */
  travels: number;
  away: number;
}

export interface SharpCase extends Case {
  kind: 'sharp';
  /** What keeps it sharp. */
  by: 'shutter' | 'samples';
  objects: string[];
  /** Pixels on the way from this frame to the next, of the fastest. */
  travels: number;
  motion: Sheet['motion'];
}

export interface ArcCase extends Case {
  kind: 'arc';
  name: string;
  samples: number;
  /** Pixels off its way, and samples that keep it within half a pixel; null: none do. */
  off: number;
  enough: number | null;
}

export interface IdleCase extends Case {
  kind: 'idle';
  samples: number;
  /** Something moves that is not seen to. */
  moves: boolean;
}

export type MotionCase = StillCase | SharpCase | ArcCase | IdleCase | BakedCase | StaleCase;

/** Pixels of an object that is seen. */
const SEEN = 4;
/** Pixels a frame from which on a thing moves, from which on a sharp one looks frozen, and in the shutter that blur. */
const [MOVES, FROZEN, BLURS] = [0.5, 2, 0.25];
/** Pixels off the way that are seen, and that are not. */
const [BENT, STRAIGHT] = [1, 0.5];
/** Motion samples that any sheet may have: a straight way takes two. */
const USUAL = 2;
const MOST_SAMPLES = 16;

interface Seen {
  id: string;
  object: ObjectSpec;
  name: string;
  pixels: number[];
}

export function motionCases(input: RenderInput): MotionCase[] {
  const seen = seenObjects(input);
  const paths = new Paths(input);
  return [
    ...stillCases(input, seen, paths),
    ...staleCases(input),
    ...movingCases(input, seen, paths),
    ...idleCases(input, seen, paths),
    ...bakedCases(input),
  ];
}

/** Objects with keys, and their pixels. */
const seenObjects = ({ document, picture }: RenderInput): Seen[] =>
  [...pixelsByObject(document, picture)].flatMap(([id, pixels]) => {
    const object = document.objects[id];
    return object.keys.length < 2 || pixels.length < SEEN ? [] : [{ id, object, name: object.name || id, pixels }];
  });

function stillCases({ document, picture }: RenderInput, seen: Seen[], paths: Paths): StillCase[] {
  return seen.flatMap(({ id, object, name, pixels }): StillCase[] => {
    if (object.motion !== 'static') return [];
    const { keys } = object;
    const travels = paths.length(id, document.frame, 1);
    const away = paths.between(id, object.transform, keyed(object, document.frame));
    const whole = paths.length(id, keys[0].frame, keys[keys.length - 1].frame - keys[0].frame);
    const deforms = new Set(keys.map(({ mesh }) => mesh ?? object.mesh)).size > 1;
    if (Math.max(travels, away, whole) < MOVES && !deforms) return [];
    const mask = maskOf(picture, pixels);
    return [
      {
        key: `motion.still ${id}`,
        kind: 'still',
        severity: 'caution',
        region: regionOf(picture, mask),
        mask,
        passes: ['motion', 'object'],
        objects: [name],
        id,
        name,
        keys: keys.length,
        deforms,
        travels,
        away,
      },
    ];
  });
}

/** Of what moves: whether it blurs at all, and along the right way. */
function movingCases({ document, sheet, picture }: RenderInput, seen: Seen[], paths: Paths): (SharpCase | ArcCase)[] {
  const moving = seen.filter(({ object }) => object.motion !== 'static');
  const { shutter, samples } = sheet.motion;
  if (shutter === 0 || samples < 2) {
    const fast = moving
      .map((one) => ({ ...one, travels: paths.length(one.id, document.frame, 1) }))
      .filter(({ travels }) => travels >= FROZEN);
    if (fast.length === 0) return [];
    const mask = maskOf(picture, fast.flatMap(({ pixels }) => pixels)); // prettier-ignore
    return [
      {
        key: 'motion.sharp',
        kind: 'sharp',
        severity: 'note',
        region: regionOf(picture, mask),
        mask,
        passes: ['motion'],
        by: shutter === 0 ? 'shutter' : 'samples',
        objects: fast.map(({ name }) => name),
        travels: Math.max(...fast.map(({ travels }) => travels)),
        motion: sheet.motion,
      },
    ];
  }
  return moving.flatMap(({ id, name, pixels }): ArcCase[] => {
    const off = paths.offArc(id, document.frame, shutter, samples);
    if (off < BENT) return [];
    const counts = Array.from({ length: MOST_SAMPLES - samples }, (_, k) => samples + 1 + k);
    const mask = maskOf(picture, pixels);
    return [
      {
        key: `motion.arc ${id}`,
        kind: 'arc',
        severity: 'caution',
        region: regionOf(picture, mask),
        mask,
        passes: ['motion', 'beauty'],
        objects: [name],
        name,
        samples,
        off,
        enough: counts.find((n) => paths.offArc(id, document.frame, shutter, n) < STRAIGHT) ?? null,
      },
    ];
  });
}

function idleCases({ document, sheet, picture }: RenderInput, seen: Seen[], paths: Paths): IdleCase[] {
  const { shutter, samples } = sheet.motion;
  if (samples <= USUAL || shutter === 0) return [];
  const isMoving = (object: ObjectSpec) => object.motion !== 'static' && object.keys.length > 1;
  const blurs = seen.some(
    ({ id, object }) =>
      isMoving(object) && (object.motion === 'deforming' || paths.length(id, document.frame, shutter) >= BLURS),
  );
  if (blurs || seen.some(({ object }) => object.motion === 'static')) return [];
  return [
    {
      key: 'motion.idle',
      kind: 'idle',
      severity: 'note',
      region: { x: 0, y: 0, width: picture.width, height: picture.height },
      mask: null,
      passes: ['motion'],
      samples,
      moves: someMove(document),
    },
  ];

  function someMove({ objects }: ShotDocument): boolean {
    return Object.values(objects).some((object) => !object.hidden && isMoving(object));
  }
}
