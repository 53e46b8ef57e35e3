/** Lighting: lights and environments that are not as they should be. */
import { ofRenders, type Family, type Words } from '../family.ts';
import { MIRROR_PASSES } from '../mirrors.ts';
import { listed } from '../words.ts';
import { environmentCoarse } from './causes/environment-coarse.ts';
import { coarseCases, type CoarseCase } from './environment.ts';
import { blurMirrors } from './remedies/blur-mirrors.ts';

export const lighting: Family = {
  id: 'lighting',
  title: 'Lighting',
  healthy: 'The environment is as fine as the frame.',
  render: ofRenders<CoarseCase>({
    needs: () => ['beauty', 'error.beauty', ...MIRROR_PASSES],
    cases: coarseCases,
    causes: [environmentCoarse],
    remedies: [blurMirrors],
    tell,
    evidence: ({ texels, texel, pixel }) => [
      {
        kind: 'table',
        title: 'Texels against pixels',
        columns: ['', 'degrees', 'around'],
        rows: [['a texel', +texel.toFixed(3), texels], ['a pixel', +pixel.toFixed(3), Math.round(360 / pixel)]], // prettier-ignore
      },
    ],
  }),
};

function tell({ objects, texels, texel, pixel }: CoarseCase): Words {
  const needed = 2 ** Math.ceil(Math.log2(360 / pixel));
  return {
    sentence: `The environment is coarser than the frame: a texel of it is ${(texel / pixel).toFixed(0)} pixels wide where ${listed(objects)} ${objects.length === 1 ? 'mirrors' : 'mirror'} it.`,
    headline: `${texels} texels around: ${texel.toFixed(2)}° each, and ${pixel.toFixed(3)}° a pixel`,
    why: `What is sharp out there is soft or stepped in flat mirrors, whatever the samples. An image of about ${needed} texels around has one for each pixel.`,
  };
}
