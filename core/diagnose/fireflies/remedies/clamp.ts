/** A clamp: most luminance that one sample may bring. */
import type { Picture } from '../../../data/picture.ts';
import { clampCurve, dulled, enoughOf, takenFrom, type ClampKind, type ClampPoint } from '../clamp-curve.ts';
import type { Proposal } from './proposal.ts';

/** Objects whose loss is told. */
const TOLD = 3;
/** Stops that are worth telling. */
const SEEN = 0.1;

export const TOLD_KIND: Record<ClampKind, string> = {
  bounced: 'light that bounced before',
  indirect: 'light met later',
  direct: 'light met at once',
};

/** @param base what is changed besides, if something is. @param names of objects by number from 0 */
export function clampAt(
  picture: Picture,
  kind: ClampKind,
  { clamp }: Pick<ClampPoint, 'clamp'>,
  names: (object: number) => string,
  base: Proposal | null = null,
): Proposal {
  const losses = dulled(picture, kind, clamp).filter(({ stops }) => stops <= -SEEN);
  const told = losses.slice(0, TOLD).map(({ object, stops }) => `${names(object)} ${stops.toFixed(1)}`);
  const note = told.length
    ? `The clamp alone takes light, in stops: ${told.join(', ')}.`
    : 'The clamp takes less than a tenth of a stop from any object.';
  const title = `Clamp ${TOLD_KIND[kind]} at ${tellClamp(clamp)}`;
  return {
    id: `${base ? `${base.id}+` : ''}clamp-${kind}`,
    title: base ? `${base.title}, and ${title[0].toLowerCase()}${title.slice(1)}` : title,
    values: { ...base?.values, [`/clamps/${kind}`]: clamp },
    look: losses.length ? { object: names(losses[0].object), stops: losses[0].stops } : null,
    stopsIn: base ? undefined : (region) => takenFrom(picture, kind, clamp, region),
    note: base?.note ? `${base.note} ${note}` : note,
  };
}

/** The clamp that takes them, and for light that bounced the broader one too, which is commoner and takes more. */
export function clampsFor(
  picture: Picture,
  kind: ClampKind,
  at: number[],
  names: (object: number) => string,
): Proposal[] {
  const kinds: ClampKind[] = kind === 'bounced' ? ['bounced', 'indirect'] : [kind];
  return kinds.map((one) => clampAt(picture, one, enoughOf(clampCurve(picture, one, at)), names));
}

export const tellClamp = (value: number): string => (value >= 100 ? value.toFixed(0) : String(value));
