/**
 * The path of a pixel's brightest sample as a sentence.
 *
 * @example
 * tellBrightest(values, names);   // 'camera → chimney, through → table, bounced → flame'
 */
import { pathOf } from '../render/path/signature.ts';

const TOLD: Record<string, string> = {
  diffuse: 'bounced',
  specular: 'mirrored',
  transmission: 'through',
  volume: 'scattered',
};

export interface BrightestNames {
  /** Names of objects and lights by number, from 1 on. */
  object(id: number): string;
  light(id: number): string;
}

/** @param values of one pixel by channel name. @returns null where no light came */
export function tellBrightest(values: Record<string, number>, names: BrightestNames): string | null {
  if (!(values['brightest.value'] > 0)) return null;
  const [camera, ...events] = pathOf(values['brightest.path']).split(', ');
  const objects = [values['brightest.first'], values['brightest.second']];
  const steps = events.map((event, i) => {
    // The film keeps the first two objects; further ones are told by what happened there.
    const object = objects[i] > 0 ? names.object(objects[i]) : event === 'volume' ? 'fog' : FURTHER;
    return `${object}, ${TOLD[event]}`;
  });
  const light = values['brightest.light'] > 0 ? names.light(values['brightest.light']) : 'a glowing surface';
  return [camera, ...together(steps), light].join(' → ');
}

/** Further surfaces at which the same happened, one after the other, are told once. */
function together(steps: string[]): string[] {
  const out: string[] = [];
  for (let i = 0; i < steps.length;) {
    let count = 1;
    while (steps[i].startsWith(FURTHER) && steps[i + count] === steps[i]) count++;
    out.push(count === 1 ? steps[i] : steps[i].replace(FURTHER, `${count} further surfaces`));
    i += count;
  }
  return out;
}
const FURTHER = 'a further surface';
