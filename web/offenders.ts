/** What a check or a log names, as a control of the shot. */
import type { ShotDocument } from '../core/document/schema.ts';

/** Pointer of a control that shows it: an object of the scene, a dial of the sheets; null when it is neither. */
export function pointerOf(document: ShotDocument, offender: string): string | null {
  const dial = /^(?:final|preview) sheet (\/.+)$/.exec(offender)?.[1];
  if (dial) return dial;
  // A log of another renderer names objects by their whole path.
  const name = offender.slice(offender.lastIndexOf('/') + 1);
  const found = Object.entries(document.objects).find(([id, object]) => id === name || object.name === name);
  return found ? `/objects/${found[0]}/hidden` : null;
}
