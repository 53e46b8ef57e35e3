/** One thing that a target may not do as we do. A new one is a file below `limits/` and a line in `registry.ts`. */
import type { PreflightOffender, PreflightRepair, TargetLoss } from '../../contracts/intake.ts';
import type { ShotDocument } from '../../document/schema.ts';
import type { Scene } from '../preflight/scene.ts';
import type { Target } from './target.ts';

export interface LimitCase {
  document: ShotDocument;
  scene: Scene;
  target: Target;
}

/** What becomes of some things on the way, before it has a name. */
export interface Loss {
  fate: TargetLoss['fate'];
  items: PreflightOffender[];
  /** What it will look like, or what else follows. */
  looks: string;
  /** What the target makes of it, as values of this shot that can be tried; null where none can show it. */
  values?: Record<string, unknown> | null;
  repair?: PreflightRepair | null;
}

export interface Limit {
  id: string;
  title: string;
  /** Null: nothing is lost. */
  run(found: LimitCase): Loss | null;
}

export const item = (object: string, detail: string): PreflightOffender => ({ object, detail, count: 1 });
