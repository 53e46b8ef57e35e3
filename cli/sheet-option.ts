import type { SheetName } from '../core/document/schema.ts';
import { BadUse } from './bad-use.ts';

/** The sheet that an option names. */
export function sheetOption(name: string): SheetName {
  if (name !== 'preview' && name !== 'final') throw new BadUse(`--sheet is "${name}"; it must be preview or final.`);
  return name;
}
