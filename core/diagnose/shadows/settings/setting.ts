/**
 * A setting that keeps a shadow away: one file each, with the words for it and the values that put it right. The survey of a
 * render and the answer of a place take both from here.
 */
import type { ControlValues } from '../../../document/set-values.ts';
import type { ShotDocument } from '../../../document/schema.ts';
import type { SwitchId } from '../../../place/switches.ts';
import type { CauseId } from '../../catalogue.ts';

/** Where the setting keeps which shadow away. */
export interface Kept {
  document: ShotDocument;
  /** What the light is called, and the pointer of its controls; null for surfaces that glow by themselves. */
  light: string;
  lightPointer: string | null;
  /** Objects that should throw the shadow, by id, and the farthest of them from the lit point, metres. */
  casters: string[];
  metres: number;
  /** Objects that it should fall on, by id. */
  receivers: string[];
  /** Of the sheet, metres; null: any. */
  rayDistance: number | null;
}

export interface ShadowSetting {
  id: SwitchId;
  cause: CauseId;
  /** Whose setting it is: missing shadows with the same owner are one finding. */
  owner(kept: Kept): string;
  /** A clause without a full stop. */
  tell(kept: Kept): string;
  /** A verb phrase. */
  title(kept: Kept): string;
  /** Null where no control holds it. */
  values(kept: Kept): ControlValues | null;
}
