/** All suspects, and how much of the noise goes with each: the region is rendered small without it, by the same random numbers. */
import type { Remedy } from '../../../contracts/finding.ts';
import { objectNames } from '../../../document/object-names.ts';
import type { Region } from '../../../data/picture.ts';
import { predictChanges } from '../../../predict/predict-change.ts';
import type { DiagnosisInput } from '../../diagnosis.ts';
import { fineTexture } from './fine-texture.ts';
import { motionBlur } from './motion-blur.ts';
import { occlusion } from './occlusion.ts';
import { sharpFilter } from './sharp-filter.ts';
import type { Suspect, Suspicion } from './suspect.ts';

const suspicions: Suspicion[] = [sharpFilter, fineTexture, motionBlur, occlusion];

/** Share of the variance from which on it is worth a word. */
const TOLD = 0.15;

export interface Guilty {
  suspect: Suspect;
  /** Of the noise's variance, what goes with it. */
  share: number;
  remedy: Remedy | null;
}

/** Those that are guilty of some of it, the most guilty first. */
export function guiltySuspects(input: DiagnosisInput, region: Region): Guilty[] {
  const suspects = suspicions.flatMap((one) => one(input) ?? []);
  if (suspects.length === 0) return [];
  const { scene, sheet, document, picture, pilotSeed } = input;
  const effects = predictChanges(
    { before: { scene, sheet }, region, mask: null, picture, names: objectNames(document), seed: pilotSeed },
    suspects.map(({ values }) => input.vary(values)),
  );
  return suspects
    .map((suspect, k) => {
      const predicted = effects[k];
      const share = 1 - (predicted.grainAfter / predicted.grainBefore) ** 2;
      const remedy = suspect.remedy && { id: suspect.id, values: suspect.values, predicted, ...suspect.remedy };
      return { suspect, share, remedy };
    })
    .filter(({ share }) => share >= TOLD)
    .sort((a, b) => b.share - a.share);
}
