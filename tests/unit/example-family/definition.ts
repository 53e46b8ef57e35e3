/**
 * The example of `docs/diagnoses.md`: a family of one cause. Motion samples are paid for in memory, and buy nothing where
 * nothing moves.
 */
import {
  ofRenders,
  type Case,
  type Cause,
  type Family,
  type Propose,
  type RenderInput,
} from '../../../core/diagnose/family.ts';

interface StillCase extends Case {
  /** Motion samples of the sheet. */
  samples: number;
}

/** What is wrong, and where: plain data. */
function casesOf({ sheet, scene, picture }: RenderInput): StillCase[] {
  if (sheet.motion.samples <= 1 || scene.slices > 1) return [];
  const region = { x: 0, y: 0, width: picture.width, height: picture.height };
  return [
    {
      key: 'cost.motion-samples',
      severity: 'note',
      region,
      mask: null,
      passes: ['motion'],
      samples: sheet.motion.samples,
    },
  ];
}

/** Why: read off the case, or proved by leaving it out (`without`). */
const motionSamplesUnused: Cause<StillCase> = { id: 'cost.motion-samples-unused', share: () => 1 };

/** What could be done. What it would do is worked out by the engine. */
const oneSample: Propose<StillCase> = () => ({
  id: 'one-sample',
  title: 'One motion sample',
  change: { kind: 'values', values: { '/motion/samples': 1 } },
});

export const cost: Family = {
  id: 'cost',
  title: 'Cost',
  healthy: 'Nothing is paid for that is not there.',
  render: ofRenders<StillCase>({
    needs: () => ['motion'],
    cases: casesOf,
    causes: [motionSamplesUnused],
    remedies: [oneSample],
    tell: ({ samples }) => ({
      sentence: `${samples} motion samples, and nothing moves.`,
      headline: 'Nothing in the frame has a second position',
      why: 'Keys are asked at each of the samples; where there are none, all say the same.',
    }),
    evidence: () => [{ kind: 'map', title: 'Motion in pixels', pass: 'motion', legend: [{ label: 'stands still', value: 0 }] }], // prettier-ignore
  }),
};
