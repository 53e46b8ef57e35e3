/**
 * Frames of a shot as people name them, and those that are worth rendering to judge its motion.
 *
 * @example
 * readFrames('1001-1004, 1010');        // { frames: [1001, 1002, 1003, 1004, 1010] }
 * readFrames('1001-1100x25');           // every 25th: { frames: [1001, 1026, 1051, 1076] }
 */
import type { ShotDocument } from '../../document/schema.ts';
import { poseAt } from '../compile/motion.ts';

/** As many as are rendered as one; see `FramesRequest`. */
export const MOST_FRAMES = 500;
const FIRST = -1e6;
const LAST = 1e7;

/** @returns the frames in order, each once, or why they are none */
export function readFrames(text: string): { frames: number[] } | { problem: string } {
  const frames = new Set<number>();
  for (const word of text.split(/[\s,;]+/).filter(Boolean)) {
    const match = /^(-?\d{1,8})(?:[-–](-?\d{1,8})(?:x(\d{1,5}))?)?$/.exec(word);
    if (!match) return { problem: `“${word}” is neither a frame nor a range such as 1001-1008 or 1001-1100x25.` };
    const from = Number(match[1]);
    const to = match[2] === undefined ? from : Number(match[2]);
    const step = Number(match[3] ?? 1);
    if (to < from) return { problem: `The range ${word} ends before it begins.` };
    if (step < 1) return { problem: `The range ${word} has a step of 0.` };
    if (from < FIRST || to > LAST) return { problem: `${word} is outside ${FIRST} to ${LAST}.` };
    if ((to - from) / step >= MOST_FRAMES) return { problem: `${word} are more than the ${MOST_FRAMES} frames that are rendered as one.` }; // prettier-ignore
    for (let frame = from; frame <= to; frame += step) frames.add(frame);
  }
  if (frames.size === 0) return { problem: 'Name at least one frame.' };
  if (frames.size > MOST_FRAMES) return { problem: `${frames.size} frames are more than the ${MOST_FRAMES} that are rendered as one.` }; // prettier-ignore
  return { frames: [...frames].sort((a, b) => a - b) };
}

export interface ProposedFrames {
  name: string;
  frames: number[];
}

/** Frames that show what moves: its start, middle and end, and where it moves most from one frame to the next. */
export function proposedFrames(document: ShotDocument): ProposedFrames[] {
  const moving = Object.values(document.objects).filter(({ motion, keys }) => motion !== 'static' && keys.length > 1);
  const keys = moving.flatMap((object) => object.keys.map(({ frame }) => frame));
  if (keys.length === 0) return [{ name: 'this frame and the next seven', frames: Array.from({ length: 8 }, (_, i) => document.frame + i) }]; // prettier-ignore
  const [first, last] = [Math.floor(Math.min(...keys)), Math.ceil(Math.max(...keys))];
  const middle = Math.round((first + last) / 2);
  const of = (frames: number[]) => [...new Set(frames)].sort((a, b) => a - b);
  let fastest = first;
  let most = -1;
  const step = Math.max(1, Math.floor((last - first) / MOST_FRAMES));
  for (let frame = first; frame < last; frame += step) {
    const moved = moving.reduce((sum, object) => {
      const [a, b] = [poseAt(object, frame).transform, poseAt(object, frame + 1).transform];
      return sum + a.reduce((part, value, i) => part + Math.abs(b[i] - value), 0);
    }, 0);
    if (moved > most) [fastest, most] = [frame, moved];
  }
  return [
    { name: 'start, middle, end', frames: of([first, middle, last]) },
    { name: 'where it moves most', frames: of([fastest, fastest + 1]) },
    ...(last - first < MOST_FRAMES ? [{ name: 'all of the motion', frames: Array.from({ length: last - first + 1 }, (_, i) => first + i) }] : []), // prettier-ignore
  ];
}

/** "1001-1004, 1010". @param frames in order */
export function tellFrames(frames: number[]): string {
  const runs: [number, number][] = [];
  for (const frame of frames) {
    const last = runs.at(-1);
    if (last && frame === last[1] + 1) last[1] = frame;
    else runs.push([frame, frame]);
  }
  return runs.map(([from, to]) => (from === to ? `${from}` : `${from}-${to}`)).join(', ');
}
