/** What a page shows at the intake station: how the shot came in, its checks, its files. */
import type { JsonPatch } from '../document/patch.ts';

export type PreflightState = 'clear' | 'caution' | 'stop' | 'not-run';

/** One thing that is not as expected. */
export interface PreflightOffender {
  /** Path of the object in the scene, or what else it is. */
  object: string;
  detail: string;
  /** How many of it are there: edges, faces, tiles. */
  count: number;
}

export interface PreflightCheck {
  /** Scripts rely on it. */
  id: string;
  group: string;
  title: string;
  why: string;
  state: PreflightState;
  expected: string;
  found: string;
  offenders: PreflightOffender[];
  repair: PreflightRepair | null;
}

/** What would put a fault right: values of the document, and work on its files. It makes a version, undone like any other. */
export interface PreflightRepair {
  label: string;
  patch: JsonPatch;
  work: RepairWork | null;
}

/** Ways to mend the faces of meshes. */
export type MeshMend =
  | 'drop degenerate'
  | 'drop duplicates'
  | 'turn outwards'
  | 'mend normals'
  | 'close holes'
  | 'cut faces'
  | 'join normals';

/** Ways to close the seams of what a texture moves: paint around islands, make both sides read the same, fill tiles that are missing. */
export type SeamMend = 'pad' | 'match' | 'fill tiles';

/** Ways to put the colours of an image right at the edges of its alpha: divide by it what was multiplied by it, or carry colours under what is not there. */
export type AlphaMend = 'divide' | 'bleed';

/** Work whose results stand in new files. */
export type RepairWork =
  /** Meshes by id. */
  | { kind: 'mend meshes'; how: MeshMend; meshes: string[] }
  /** Objects whose stretch, shear or mirroring goes into meshes of their own. */
  | { kind: 'carry transforms'; objects: string[] }
  /** Objects whose pivot goes into the middle of their mesh. */
  | { kind: 'centre pivots'; objects: string[] }
  /** Maps by id, each with the texels along one side of the image it becomes. */
  | { kind: 'bake maps'; texels: Record<string, number> }
  /** Displacement textures by id, each with the texels painted around its islands where it is padded. */
  | { kind: 'mend seams'; how: SeamMend; textures: Record<string, number> }
  /** Textures by id whose colours are put right at the edges of their alpha. */
  | { kind: 'mend alpha'; how: AlphaMend; textures: string[] }
  /** Textures by id, each with the times that its image is halved. */
  | { kind: 'shrink textures'; textures: Record<string, number> }
  /** Environment images by id, each with the rows near its poles that run into one colour. */
  | { kind: 'even poles'; textures: Record<string, { top?: number; bottom?: number }> }
  /** Textures by id whose floats hold display values, each undone. */
  | { kind: 'undo curve'; textures: string[] }
  /** Endless floors by id, each with the side in metres of the square it becomes. */
  | { kind: 'end floors'; sides: Record<string, number> };

/** A file that a scene needs. */
export interface IntakeFile {
  /** Below the scene's folder; as written where it leads elsewhere or nowhere. */
  path: string;
  kind: string;
  /** Files and places that name it. */
  neededBy: string[];
  state: 'ok' | 'missing' | 'outside' | 'absolute' | 'case' | 'unreadable';
  bytes: number;
  /** Whether anything of it is in the scene. */
  used: boolean;
  /** What the picture is like without it. */
  breaks: FileBreak[];
}

/** What happens to objects when a file does not arrive. */
export interface FileBreak {
  look: 'gone' | 'plain' | 'shaded wrongly' | 'untextured' | 'unlit';
  /** Their paths. */
  objects: string[];
}

/** A link of the chain from the scene to files on disk. */
export interface ChainNode {
  id: string;
  kind: string;
  label: string;
  state: IntakeFile['state'];
  /** Objects that it stands for. */
  count: number;
  /** Of the file itself, and of all files of its branch, each once. */
  bytes: number;
  total: number;
  /** Ids. */
  children: string[];
}

/** How a shot came in, where it was no shot of ours. */
export interface CameIn {
  format: string;
  file: string;
  notUnderstood: { where: string; what: string }[];
  repaired: { where: string; what: string }[];
  takenOver: TakenOver[];
}

export type ProfileKind = 'show' | 'target' | 'log-format';

/** A profile that can be chosen, as its JSON text. */
export interface ProfileTold {
  kind: ProfileKind;
  name: string;
  text: string;
  /** It ships, and is not edited in place. */
  ships: boolean;
}

/** Of the shot's present version. */
export interface Intake {
  version: number;
  state: 'waiting' | 'done' | 'failed';
  error: string | null;
  /** What the checks took. */
  seconds: number;
  profile: string;
  checks: PreflightCheck[];
  files: IntakeFile[];
  totalBytes: number;
  chain: ChainNode[];
  /** Against the target that the shot is for; null: none was chosen. */
  fit: TargetFit | null;
  /** Names of the profiles that the shot goes by. */
  show: string | null;
  target: string | null;
  cameIn: CameIn | null;
}

/** For the stations of a workspace; null: not run on this version yet. */
export interface PreflightSummary {
  state: 'waiting' | 'done' | 'failed';
  /** Rises when the version is held against something else: results of an earlier run are older. */
  run: number;
  stop: number;
  caution: number;
  /** Checks that stop or want a look, worst first, one sentence each. */
  told: { id: string; state: 'stop' | 'caution'; sentence: string }[];
}

export interface LogKindTold {
  key: string;
  severity: 'debug' | 'info' | 'warning' | 'error' | 'fatal';
  count: number;
  message: string;
  firstLine: number;
  lastLine: number;
  phase: string | null;
  objects: string[];
  /** Null: nobody has written down what it means. */
  id: string | null;
  meaning: string;
  verdict: { harmless: 'yes' | 'no' | 'unknown'; why: string };
}

/** A log that came with a shot, read and judged. */
export interface ShotLog {
  id: number;
  name: string;
  bytes: number;
  createdAt: string;
  /** Its first lines, to try formats on. */
  sample: string[];
  format: string;
  lines: number;
  unread: number;
  seconds: number | null;
  phases: { name: string; seconds: number; lines: number }[];
  frames: { frame: number; seconds: number | null; peakMemory: number | null; warnings: number; errors: number }[];
  memory: { peak: number; last: number; curve: { seconds: number; bytes: number }[] } | null;
  rays: Record<string, number> | null;
  state: 'clear' | 'caution' | 'stop';
  brokeOff: { phase: string | null; frame: number | null; object: string | null; line: number; cause: string } | null;
  kinds: LogKindTold[];
  hints: string[];
  lacking: string[];
}

/** What became of a scene whose objects were added to a shot. */
export interface AddedScene {
  /** Ids in the shot. */
  objects: string[];
  leftOut: { lights: number; cameras: number };
  notUnderstood: { where: string; what: string }[];
}

/** What became of files that were brought in beside a shot. */
export interface BroughtFiles {
  found: { path: string; from: string; by: 'path' | 'checksum' | 'name' }[];
  replaced: string[];
  unclear: { path: string; from: string[] }[];
  /** Still missing. */
  lost: string[];
}

/** Something that a target renderer will not do as this shot has it. */
export interface TargetLoss {
  id: string;
  title: string;
  /** Left out, made an image, made something else, cut at a most, or said in other numbers. */
  fate: 'dropped' | 'baked' | 'replaced' | 'limited' | 'translated';
  items: PreflightOffender[];
  looks: string;
  /** The loss as values of this shot, by pointer: a trial of them shows it. Null where nothing can show it. */
  values: Record<string, unknown> | null;
  repair: PreflightRepair | null;
}

/** How a shot fits a target renderer. */
export interface TargetFit {
  target: string;
  about: string;
  losses: TargetLoss[];
  /** Our dials in the target's: what to type in there. */
  dials: { name: string; value: string; from: string }[];
  /** One-off work before the first frame, seconds. */
  before: { what: string; seconds: number }[];
}

/** One aspect of a scene that was made for another renderer. */
export interface TakenOver {
  aspect: string;
  fate: 'carried' | 'default' | 'lost';
  detail: string;
}

/** A package opened where nothing else is, rendered there, and held against the shot. */
export interface DryRunTold {
  holds: boolean;
  /** Why it does not hold. */
  why: string | null;
  /** Pixels that were compared. */
  pixels: number;
  /** Bytes of all files the shot names, and of those in the package. */
  before: number;
  after: number;
}
