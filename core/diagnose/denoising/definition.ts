/** Would this picture denoise? What a stand-in denoiser leaves of noise and fireflies, in a still and in motion. */
import { ofPictures, type Family, type Words } from '../family.ts';
import { percent } from '../words.ts';
import { fireflies } from './causes/fireflies-stay.ts';
import { noiseAlone } from './causes/noise-alone.ts';
import { tooMuchNoise } from './causes/too-much-noise.ts';
import { casesOf, type DenoisedCase } from './denoised.ts';

export const denoising: Family = {
  id: 'denoising',
  title: 'Denoising',
  healthy: 'There is nothing to denoise.',
  picture: ofPictures<DenoisedCase>({
    cases: casesOf,
    causes: [fireflies, tooMuchNoise, noiseAlone],
    remedies: [],
    tell,
    evidence: ({ before, after, fireflyLeft, boiling }) => [
      {
        kind: 'table',
        title: 'What a denoiser leaves behind',
        columns: ['', 'before', 'after'],
        rows: [
          ['noise, steps', +before.toFixed(2), +after.toFixed(2)],
          ...(fireflyLeft === null ? [] : [['of a firefly', '100 %', percent(fireflyLeft)]]),
          ...(boiling === null ? [] : [['from frame to frame, steps', null, +boiling.toFixed(2)]]),
        ],
      },
    ],
    measured: ({ before, after, fireflyLeft, boiling, isGuided }) => ({
      noiseBefore: before,
      noiseAfter: after,
      fireflyLeft,
      boiling,
      isGuided,
    }),
  }),
};

function tell({ before, after, fireflyLeft, boiling, still, sequence }: DenoisedCase): Words {
  const told = [
    `${before.toFixed(1)} → ${after.toFixed(1)} of 255 noise`,
    fireflyLeft === null ? '' : `${percent(fireflyLeft)} of a firefly’s excess light is left`,
    boiling === null ? '' : `${boiling.toFixed(1)} of 255 flicker from frame to frame`,
  ];
  const motion =
    sequence === null ? '' : sequence ? ', and is calm in motion' : `, ${still ? 'but' : 'and'} would boil in motion`;
  return {
    sentence: `${still ? 'Would denoise' : 'Would not denoise'} as a still${motion}: ${told.filter(Boolean).join('; ')}.`,
    headline: still ? 'Noise alone, which a denoiser removes' : 'What a denoiser leaves is visible',
    why: 'Judged with a simple denoiser on the noisiest window; others leave more or less.',
  };
}
