/**
 * Numbered pictures as sequences: `beauty.1001.exr`, `beauty_1001.exr` and `beauty1001.exr` are frame 1001 of one.
 *
 * @example
 * frameOf('lantern.1004.exr');   // { stem: 'lantern.####.exr', frame: 1004 }
 */
export interface FrameName {
  /** The name with its number as signs; the whole name where it has no number. */
  stem: string;
  frame: number | null;
}

export function frameOf(name: string): FrameName {
  const match = /^(.*?)(\d{2,8})(\.[A-Za-z0-9]+)$/.exec(name);
  // A number that is part of a word or a version (`v012`, `x2`) is none of a frame, unless it stands by itself.
  if (!match || /(^|[._ -])[vVxX]$/.test(match[1])) return { stem: name, frame: null };
  const [, stem, digits, ending] = match;
  return { stem: `${stem}${'#'.repeat(Math.max(4, digits.length))}${ending}`, frame: Number(digits) };
}

/** Frames between the first and the last that are not there. */
export function missingFrames(frames: number[]): number[] {
  const present = new Set(frames);
  const missing: number[] = [];
  for (let f = Math.min(...frames) + 1; f < Math.max(...frames) && missing.length < 10_000; f++)
    if (!present.has(f)) missing.push(f);
  return missing;
}
