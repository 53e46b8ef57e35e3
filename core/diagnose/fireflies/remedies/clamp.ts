/** A clamp: most luminance that one sample may bring. */
import type { Picture } from '../../../data/picture.ts';
import { objectNames } from '../../../document/object-names.ts';
import { clampCurve, dulled, enoughOf, takenFrom, type ClampKind, type ClampPoint } from '../clamp-curve.ts';
import type { FireflyCase } from '../case.ts';
import { setting, valuesIn, type FireflyProposal, type ProposeCure } from './proposal.ts';

/** Objects whose loss is told. */
const TOLD = 3;
/** Stops that are worth telling. */
const SEEN = 0.1;

export const TOLD_KIND: Record<ClampKind, string> = {
  bounced: 'light that bounced before',
  indirect: 'indirect light',
  direct: 'direct light',
};

/** @param base what is changed besides, if something is. @param names of objects by number from 0 */
export function clampAt(
  picture: Picture,
  kind: ClampKind,
  { clamp }: Pick<ClampPoint, 'clamp'>,
  names: (object: number) => string,
  base: FireflyProposal | null = null,
): FireflyProposal {
  const losses = dulled(picture, kind, clamp).filter(({ stops }) => stops <= -SEEN);
  const told = losses.slice(0, TOLD).map(({ object, stops }) => `${names(object)} ${stops.toFixed(1)}`);
  const note = told.length
    ? `The clamp alone takes light, in stops: ${told.join(', ')}.`
    : 'The clamp takes less than a tenth of a stop from any object.';
  const title = `Clamp ${TOLD_KIND[kind]} at ${tellClamp(clamp)}`;
  return {
    id: `${base ? `${base.id}+` : ''}clamp-${kind}`,
    title: base ? `${base.title}, and ${title[0].toLowerCase()}${title.slice(1)}` : title,
    ...setting({ ...(base ? valuesIn(base) : {}), [`/clamps/${kind}`]: clamp }),
    dulls: losses.length ? { object: names(losses[0].object), stops: losses[0].stops } : null,
    stopsIn: base ? undefined : (region) => takenFrom(picture, kind, clamp, region),
    note: base?.note ? `${base.note} ${note}` : note,
  };
}

/** The clamp that takes them, and for light that bounced the broader one too, which is commoner and takes more. */
export const clamps: ProposeCure = ({ input, kind, own }: FireflyCase) => {
  const { picture } = input;
  const names = objectNames(input.document);
  const kinds: ClampKind[] = kind === 'bounced' ? ['bounced', 'indirect'] : [kind];
  return kinds.map((one) => clampAt(picture, one, enoughOf(clampCurve(picture, one, own)), (object) => names[object]));
};

export const tellClamp = (value: number): string => (value >= 100 ? value.toFixed(0) : String(value));
