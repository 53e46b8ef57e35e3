/**
 * The engine: what all families have in common. Cases are found, causes proved by leaving them out, remedies forecast and
 * ranked; what lies upstream goes before what it explains. A family that throws is told, and the others go on. Families may
 * look apart, in any order or place, and be arranged once all have.
 *
 * @example
 * const found = diagnoseRender({ document, sheet, scene, picture, vary, pilotSeed: pilotSeed(7), clock: null });
 * found[0].finding.cause; // 'limits.transmission'
 */
import type { CauseShare, Finding, FindingWithMask, Remedy } from '../contracts/finding.ts';
import { withChanges } from '../figures/effect.ts';
import { withKnownErrors } from '../picture/known-errors.ts';
import type { AnyReading, Case, Explained, Family, Proposal, RenderInput, Tried } from './family.ts';
import { complete, Forecaster, type Forecastable } from './forecast.ts';
import { byUrgency } from './order.ts';
import type { PictureInput } from './picture-input.ts';
import { FAMILIES } from './registry.ts';
import { upstreamFirst } from './upstream.ts';

/** What goes with a cause that was left out before it is worth a word, and before it goes before all that was not proved. */
const TOLD = 0.15;
const PROVED = 0.5;

/** Findings in a render, the most urgent first. @param families that are asked; all by default */
export function diagnoseRender(rendered: RenderInput, families: readonly Family[] = FAMILIES): FindingWithMask[] {
  return arrangeFindings(
    rendered,
    families.flatMap((family) => lookInRender(rendered, family)),
    families,
  );
}

/** What one family finds by itself, as its cases come. */
export function lookInRender(rendered: RenderInput, family: Family): FindingWithMask[] {
  const { render } = family;
  if (!render) return [];
  const input = { ...rendered, picture: withKnownErrors(rendered.picture) };
  return asked(family, 'render', () => render.cases(input).map((of) => findInRender(family, render, of, input)));
}

/**
 * What all families found, the most urgent first, and what lies upstream before what it explains.
 * @param rendered the same that they looked at; its picture needs the passes of figures only
 */
export function arrangeFindings(
  rendered: RenderInput,
  found: FindingWithMask[],
  families: readonly Family[] = FAMILIES,
): FindingWithMask[] {
  const input = { ...rendered, picture: withKnownErrors(rendered.picture) };
  return byUrgency(upstreamFirst(input, found, families));
}

/** Findings in a picture by itself, the most urgent first. */
export function diagnosePicture(input: PictureInput, families: readonly Family[] = FAMILIES): Finding[] {
  const found = families.flatMap((family) => {
    const { picture } = family;
    return picture ? asked(family, 'picture', () => picture.cases(input).map((of) => findInPicture(family, picture, of))) : []; // prettier-ignore
  });
  return byUrgency(found).map(({ finding }) => finding);
}

/** What a family finds, or that it could not look. */
function asked(family: Family, of: Finding['of'], look: () => FindingWithMask[]): FindingWithMask[] {
  try {
    return look();
  } catch (error) {
    return [{ finding: lookFailed(family, of, (error as Error).message), mask: null }];
  }
}

/** What stands where a family's findings were to be. @param why as a sentence */
export const lookFailed = ({ id, title }: Family, of: Finding['of'], why: string): Finding => ({
  of,
  family: id,
  cause: `${id}.failed`,
  causes: [],
  key: `${id}.failed`,
  severity: 'note',
  sentence: `${title}: could not be examined.`,
  headline: 'The examination failed; the other findings do not depend on it',
  why,
  where: { region: null, pixels: 0, objects: [], passes: [] },
  dials: [],
  evidence: [],
  remedies: [],
});

function findInRender(family: Family, reading: AnyReading<RenderInput>, of: Case, input: RenderInput): FindingWithMask {
  const forecaster = new Forecaster(input, of, reading.smallPasses);
  const proofs = reading.causes.flatMap(({ id, without }) => {
    const values = without?.(of);
    return values ? [{ id, values }] : [];
  });
  const proposals = reading.remedies.flatMap((propose) => propose(of) ?? []);
  const rendered = [...proofs, ...proposals.filter(isRendered).map(triedAs)];
  forecaster.all(rendered);

  const proved = proofs.map(({ id, values }) => ({
    id,
    share: reading.goesWith!(forecaster.all([{ values }])[0].effect),
  }));
  const causes = explained(reading, of, proved);
  const first = tryAll(reading, of, proposals, forecaster);
  const further = tryAll(reading, of, reading.further?.(of, first) ?? [], forecaster);
  return put(
    family,
    reading,
    of,
    'render',
    causes,
    [...first, ...further].map(({ remedy }) => remedy),
  );
}

const isRendered = ({ change, files, isWhole }: Proposal): boolean => !isWhole && (change?.kind === 'values' || change?.kind === 'hold-out' || files !== undefined); // prettier-ignore
function triedAs({ id, change, files }: Proposal): Forecastable {
  if (change?.kind === 'values') return { values: change.values };
  if (change?.kind === 'hold-out') return { values: change.values, objects: change.objects };
  return { values: {}, ...(files && { files: { id, assets: files } }) };
}

function tryAll(reading: AnyReading<RenderInput>, of: Case, proposals: Proposal[], forecaster: Forecaster): Tried[] {
  forecaster.all(proposals.filter(isRendered).map(triedAs));
  return proposals.map((proposal) => {
    const known = { figures: proposal.forecast ?? [] };
    if (!isRendered(proposal)) return { proposal, remedy: remedyOf(proposal, complete(known)), small: null };
    const [{ effect, small, side }] = forecaster.all([triedAs(proposal)]);
    const told = reading.forecast?.(of, proposal, effect, side) ?? { effect };
    return {
      proposal,
      remedy: remedyOf(proposal, complete(withChanges(told.effect, known.figures)), told.note),
      small,
    };
  });
}

function remedyOf({ id, title, change, note, numbers }: Proposal, predicted: Remedy['predicted'], more?: string) {
  const notes = [note, more].filter(Boolean).join(' ');
  return {
    id,
    title,
    change,
    predicted: predicted!,
    ...(notes ? { note: notes } : {}),
    ...(numbers ? { numbers } : {}),
  };
}

/** Causes by how much each explains; one that was proved to take half of it goes before what is only read off. */
function explained(reading: Pick<AnyReading<unknown>, 'causes'>, of: Case, proved: CauseShare[]): Explained {
  const guilty = proved.filter(({ share }) => share >= TOLD);
  const read = reading.causes.flatMap(({ id, share }) => {
    const own = share?.(of) ?? 0;
    return own > 0 ? [{ id, share: own }] : [];
  });
  const sure = guilty.filter(({ share }) => share >= PROVED);
  const rest = [...read, ...guilty.filter(({ share }) => share < PROVED)];
  const most = (a: CauseShare, b: CauseShare) => b.share - a.share;
  return [...sure.sort(most), ...rest.sort(most)].map(({ id, share }) => ({ id, share: Math.min(1, share) }));
}

function findInPicture(family: Family, reading: AnyReading<PictureInput>, of: Case): FindingWithMask {
  const proposals = reading.remedies.flatMap((propose) => propose(of) ?? []);
  const remedies = proposals.map((one) => remedyOf(one, complete({ figures: one.forecast ?? [] }, 'a picture by itself does not tell'))); // prettier-ignore
  return put(family, reading, of, 'picture', explained(reading, of, []), remedies);
}

function put<I>(
  { id, title }: Family,
  reading: AnyReading<I>,
  of: Case,
  kind: Finding['of'],
  causes: Explained,
  proposed: Remedy[],
): FindingWithMask {
  const [main] = causes;
  if (!main) throw new Error(`No cause of ${title.toLowerCase()} explains "${of.key}".`);
  const remedies = reading.rank?.(of, proposed, causes) ?? proposed;
  const { region, mask, passes, objects = [], isElsewhereNext } = of;
  const measured = reading.measured?.(of);
  return {
    mask,
    finding: {
      of: kind,
      family: id,
      cause: main.id,
      causes,
      key: of.key,
      severity: of.severity,
      ...reading.tell(of, causes, remedies),
      where: {
        region,
        pixels: mask ? mask.reduce((n, one) => n + one, 0) : region.width * region.height,
        objects,
        passes,
      },
      dials: reading.dials?.(of, remedies) ?? [],
      evidence: reading.evidence(of, remedies),
      ...(measured ? { measured } : {}),
      remedies,
      ...(isElsewhereNext ? { isElsewhereNext } : {}),
    },
  };
}
