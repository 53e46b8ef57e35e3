/**
 * What a family of problems is: a folder that exports one `Family`, and a line in `registry.ts`. It says what is wrong where
 * (cases), why (causes), and what could be done (remedies), as plain data and small functions; `run.ts` does what all have in
 * common: causes are proved by leaving them out, remedies forecast, ranked and put into findings.
 *
 * `docs/diagnoses.md` leads through a new one.
 */
import type { CauseShare, Change, DialNeed, Evidence, Finding, Remedy, Severity } from '../contracts/finding.ts';
import type { Effect } from '../contracts/figures.ts';
import type { Picture, Region } from '../data/picture.ts';
import type { ControlValues } from '../document/set-values.ts';
import type { Sheet, ShotDocument } from '../document/schema.ts';
import type { Variation } from '../predict/small-render.ts';
import type { Assets } from '../render/compile/assets.ts';
import type { FilmLayout } from '../render/film/passes.ts';
import type { Clock } from '../render/frame/render-tile.ts';
import type { CompiledScene } from '../render/scene/scene.ts';
import type { CauseId, FamilyId } from './catalogue.ts';
import type { PictureInput } from './picture-input.ts';

/** A finished render of a whole frame. */
export interface RenderInput {
  document: ShotDocument;
  /** The sheet the render was made with. */
  sheet: Sheet;
  scene: CompiledScene;
  /** Meshes and textures that the document refers to. */
  assets: Assets;
  /** The passes that families need, over the full frame. */
  picture: Picture;
  /**
   * The scene and the sheet with some controls set otherwise; the samples stay as rendered unless they are set.
   * @param files in place of the document's own, as files that are made would be read
   */
  vary(values: ControlValues, files?: Assets): Variation;
  /** For pilots; never a seed that a render or trial of this shot uses. */
  pilotSeed: number;
  /** Of a host that wants the time of remedies forecast. */
  clock: Clock | null;
}

/** What is wrong, and where. Families add their own data. */
export interface Case {
  /** Stable from render to render. */
  key: string;
  severity: Severity;
  region: Region;
  /** A byte a pixel of the full frame; null: all of it, or none in particular. */
  mask: Uint8Array | null;
  /** Passes that show it. */
  passes: string[];
  /** Names of objects. */
  objects?: string[];
  /** Its pixels are others in the next render. */
  isElsewhereNext?: boolean;
}

/** One reason. A file each, and a line in its family. */
export interface Cause<C> {
  id: CauseId;
  /** How much of a case it explains, 0–1, read off what is known; null: nothing. */
  share?(of: C): number | null;
  /** What takes it away: its share is what goes with it when the region is rendered small without it. Null: there is nothing of the kind. */
  without?(of: C): ControlValues | null;
  /** Once it is dealt with, findings of other families in the same place are others: they come after it. */
  isUpstream?: boolean;
  /** Told by the scene, whatever its light: nothing upstream changes it. */
  isIndependent?: boolean;
}

/** What could be done. */
export interface Proposal {
  id: string;
  /** A verb phrase. */
  title: string;
  change: Change | null;
  /** Of a change by files: what they would be read as, so that it can be rendered small before there are any. */
  files?: Assets;
  /** What to know before it is taken. */
  note?: string;
  /** Figures that a model tells better than a small render. */
  forecast?: Effect['figures'];
  /** Nothing remains to be rendered: `forecast` says all, or why not. */
  isWhole?: boolean;
  numbers?: Remedy['numbers'];
}

/** A remedy: a file each, and a line in its family. Null or nothing where it does not apply. */
export type Propose<C, P extends Proposal = Proposal> = (of: C) => P | P[] | null;

/** A proposal that was rendered small. */
export interface Tried<P extends Proposal = Proposal> {
  proposal: P;
  remedy: Remedy & { predicted: Effect };
  /** The region rendered small with it; null where a model told all. */
  small: Picture | null;
}

/** The causes of a case, the one that explains most first. */
export type Explained = CauseShare[];

export interface Words {
  /** With a full stop. */
  sentence: string;
  /** Without one. */
  headline: string;
  why: string;
}

/** How a family reads one kind of thing. */
export interface Reading<I, C extends Case, P extends Proposal = Proposal> {
  /** Passes of a render that it looks at. */
  needs?(layout: FilmLayout): readonly string[];
  cases(input: I): C[];
  causes: readonly Cause<C>[];
  remedies: readonly Propose<C, P>[];
  /** The figure that tells how bad it is. */
  figure?: string;
  /** Share of a case that goes with what was left out, by what was forecast without it. Needed by causes that are proved so. */
  goesWith?(effect: Effect): number;
  /** What else is known of a proposal once it was rendered small. */
  forecast?(of: C, proposal: P, effect: Effect, side: Variation): { effect: Effect; note?: string };
  /** Passes of small renders that `forecast` and `further` need beside those of figures. */
  smallPasses?: readonly string[];
  /** Proposals that build on what the first ones came to. */
  further?(of: C, tried: Tried<P>[]): P[];
  /** The order they are to be tried in; as proposed by default. */
  rank?(of: C, remedies: Remedy[], causes: Explained): Remedy[];
  tell(of: C, causes: Explained, remedies: Remedy[]): Words;
  dials?(of: C, remedies: Remedy[]): DialNeed[];
  evidence(of: C, remedies: Remedy[]): Evidence[];
  measured?(of: C): Finding['measured'];
}

/** A reading whose cases are its own business. */
export type AnyReading<I> = Reading<I, Case, Proposal>;

export interface Family {
  id: FamilyId;
  title: string;
  /** The sentence when nothing is wrong. */
  healthy: string;
  /** It needs no picture without noise, and looks while a render still runs. */
  isEarly?: boolean;
  render?: AnyReading<RenderInput>;
  picture?: AnyReading<PictureInput>;
}

/** A reading of renders as families hold it: `run.ts` hands each family its own cases and no others. */
export const ofRenders = <C extends Case, P extends Proposal = Proposal>(reading: Reading<RenderInput, C, P>) =>
  reading as unknown as AnyReading<RenderInput>;

/** The same of pictures by themselves, whoever made them. */
export const ofPictures = <C extends Case, P extends Proposal = Proposal>(reading: Reading<PictureInput, C, P>) =>
  reading as unknown as AnyReading<PictureInput>;
