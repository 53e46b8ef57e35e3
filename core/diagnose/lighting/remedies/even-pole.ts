/** The rows near a pole blended into one colour, in a new file. */
import type { Propose } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const evenPole: Propose<LightingCase> = (of) =>
  of.kind !== 'pole'
    ? null
    : {
        id: 'even-pole',
        title: `Blend the ${of.pole} ${of.mended} rows of ${of.file} into one colour`,
        change: { kind: 'files', patch: [], work: { kind: 'even poles', textures: { [of.texture]: { [of.pole]: of.mended } } } },
        files: of.files,
        note: 'In a new file next to the old one. What was there is unknown: only a photograph taken straight up can tell.',
      }; // prettier-ignore
