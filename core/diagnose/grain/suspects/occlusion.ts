/** Where the neutral material is dimmed by ambient occlusion, its few rays are noise of their own. */
import type { Suspicion } from './suspect.ts';

const TIMES = 4;
const MOST = 256;

export const occlusion: Suspicion = ({ sheet }) => {
  if (sheet.neutral !== 'neutral-occlusion') return null;
  const samples = Math.min(MOST, sheet.extraSamples.occlusion * TIMES);
  if (samples === sheet.extraSamples.occlusion) return null;
  return {
    id: 'occlusion-samples',
    told: 'too few occlusion samples',
    values: { '/extraSamples/occlusion': samples },
    remedy: { title: `${samples} occlusion samples`, note: 'More rays at the first hit alone.' },
  };
};
