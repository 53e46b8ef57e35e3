/** What is worked out from a whole document, as functions of plain data: a large one is worked on apart, see `Context`. */
import { totalmem } from 'node:os';
import prettyBytes from 'pretty-bytes';
import type { HeldOut } from '../../../core/contracts/finding.ts';
import { clipRegion, type Region } from '../../../core/data/picture.ts';
import { canonicalText } from '../../../core/document/canonical.ts';
import { holdOutPair } from '../../../core/document/hold-out.ts';
import { applyPatch, patchBetween, type JsonPatch } from '../../../core/document/patch.ts';
import { InvalidInput } from '../../../core/document/problem.ts';
import type { Sheet, SheetName, ShotDocument } from '../../../core/document/schema.ts';
import { removalPatch } from '../../../core/document/remove-items.ts';
import { valuesPatch, type ControlValues } from '../../../core/document/set-values.ts';
import { tellChange, tellInOne } from '../../../core/document/tell-change.ts';
import { validateDocument } from '../../../core/document/validate.ts';
import { frameBytes } from '../../../core/render/film/frame-bytes.ts';
import { GROUP } from '../../../core/render/film/random.ts';
import { tilesOf } from '../../../core/render/frame/render-tile.ts';
import { groupsOf } from '../../../core/render/film/rounds.ts';
import { conflict } from '../../errors.ts';

/** Pixels of a tile's side. */
export const TILE = 32;

/** A stored document with a patch on it, checked as a whole. */
export function patchedDocument(version: { document: string }, patch: JsonPatch): ShotDocument {
  const document = JSON.parse(version.document) as ShotDocument;
  return patch.length ? validateDocument(applyPatch(document, patch)) : document;
}

export interface ChangeTask {
  /** Text of the document. */
  document: string;
  code: string;
  patch: JsonPatch;
  /** Values that are set besides, those of sheets in each of these. */
  sheets: SheetName[];
  values: ControlValues;
  /** Items that are taken out, by their pointers. */
  remove: string[];
  /** Text of the document that it is to be; left out: what the rest makes of it. */
  becomes?: string;
}

/** @returns the whole patch, which may be empty, the text of the document with it, and what it changes in words */
export function changeDocument({ document, code, patch, sheets, values, remove, becomes }: ChangeTask): {
  patch: JsonPatch;
  document: string;
  told: string;
} {
  const before = JSON.parse(document) as ShotDocument;
  const whole = becomes
    ? patchBetween(before, JSON.parse(becomes) as ShotDocument)
    : [...patch, ...valuesPatch(before, sheets, values), ...removalPatch(before, remove)];
  const after = validateDocument(applyPatch(before, whole), code);
  return { patch: whole, document: canonicalText(after), told: tellInOne(tellChange(before, after, whole)) };
}

export interface TryTask {
  document: string;
  sheet: SheetName;
  values: ControlValues;
  /** What is changed besides. */
  patch?: JsonPatch;
  /** Objects that get the values alone, in a second render. */
  objects?: string[] | null;
  /** Pixels that are asked for; null: the whole frame. */
  region: Region | null;
}

/** Two groups: one alone has no spread. */
const LEAST_SAMPLES = 2 * GROUP;

/** What values change, which may be nothing, and the region of the frame they are tried on. */
export function tryValues({ document: text, sheet, values, patch: given = [], objects = null, region }: TryTask): {
  patch: JsonPatch;
  /** Of the second render; null: one has all. */
  alonePatch: JsonPatch | null;
  region: Region;
  /** In words. */
  told: string;
} {
  const document = JSON.parse(text) as ShotDocument;
  const patch = [...given, ...valuesPatch(document, [sheet], values)];
  const before = document.sheets[sheet];
  const changed = patch.length ? validateDocument(applyPatch(document, patch)) : document;
  const after = changed.sheets[sheet];
  if (after.width !== before.width || after.height !== before.height)
    throw conflict('A trial compares the same pixels: it cannot change the width or height.');
  const other = sheet === 'preview' ? 'final' : 'preview';
  if (patch.length > 0 && patch.every(({ path }) => path.startsWith(`/sheets/${other}/`)))
    throw conflict(`It changes the ${other} sheet alone, and a trial of the ${sheet} would show nothing of it. It can be carried out under Intake.`); // prettier-ignore
  if (Math.min(before.samples, after.samples) < LEAST_SAMPLES)
    throw conflict(
      `A trial needs ${LEAST_SAMPLES} samples at least: its noise is told by how groups of ${GROUP} differ.`,
    );
  const parts = objects && patch.length > 0 && heldOut(document, sheet, { objects, values });
  return {
    patch: parts ? parts.rest : patch,
    alonePatch: parts ? parts.alone : null,
    region: regionIn(before, region),
    told: `${tellInOne(tellChange(document, changed, patch, { withSheets: false }))}${objects ? ` on ${namesOf(document, objects)} alone` : ''}`,
  };
}

const namesOf = (document: ShotDocument, ids: string[]) => ids.map((id) => document.objects[id].name || id).join(', ');

/** The two renders of values for some objects alone. @throws RequestError 409 where they would not add up, with why */
function heldOut(document: ShotDocument, sheet: SheetName, { objects, values }: HeldOut) {
  try {
    const { rest, alone } = holdOutPair(document, objects);
    return {
      rest: valuesPatch(document, [sheet], rest),
      alone: valuesPatch(document, [sheet], { ...alone, ...values }),
    };
  } catch (error) {
    if (error instanceof RangeError) throw conflict(`These objects cannot be rendered alone: ${error.message}.`);
    throw error;
  }
}

export interface PlanTask {
  document: string;
  sheet: SheetName;
  /** What each of the renders is made with. */
  patches: JsonPatch[];
  /** Null: the full frame. */
  region: Region | null;
}

/** What a render's row holds of its document. */
export interface RenderPlan {
  region: Region;
  wholeFrame: boolean;
  frameWidth: number;
  frameHeight: number;
  /** The sheet's own. */
  seed: number;
  targetGroups: number;
  tileCount: number;
}

export const planRenders = ({ document, sheet, patches, region }: PlanTask): RenderPlan[] =>
  patches.map((patch) => planOf(patchedDocument({ document }, patch), sheet, region));

/** @throws RequestError 409 for a frame whose picture this machine cannot hold; InvalidInput for a region outside of it */
export function planOf(document: ShotDocument, name: SheetName, wanted: Region | null): RenderPlan {
  const sheet = document.sheets[name];
  const region = regionIn(sheet, wanted);
  refuseTooLarge(document, sheet, region);
  return {
    region,
    wholeFrame: region.width === sheet.width && region.height === sheet.height,
    frameWidth: sheet.width,
    frameHeight: sheet.height,
    seed: sheet.seed,
    targetGroups: groupsOf(sheet.samples),
    tileCount: tilesOf(region, TILE).length,
  };
}

/** The wanted region inside the sheet's frame; InvalidInput when nothing of it is. */
function regionIn({ width, height }: Sheet, wanted: Region | null): Region {
  const region = clipRegion(wanted ?? { x: 0, y: 0, width, height }, width, height);
  if (region.width * region.height === 0)
    throw new InvalidInput('region', [
      { path: '', value: JSON.stringify(wanted), expected: `pixels of a ${width} × ${height} frame` },
    ]);
  return region;
}

/** Pictures are put together in memory before they are sent: what cannot fit there is not begun. */
function refuseTooLarge(document: ShotDocument, sheet: Sheet, region: Region): void {
  const share = (region.width * region.height) / (sheet.width * sheet.height);
  const needed = frameBytes(document, sheet) * share;
  if (needed > totalmem())
    throw conflict(
      `${region.width} × ${region.height} pixels need about ${prettyBytes(needed)} of memory and this machine has ${prettyBytes(totalmem())}. Make the frame smaller, or render a region.`,
    );
}
