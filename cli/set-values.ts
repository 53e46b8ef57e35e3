/** `--set /json/pointer=value`: single values of a document, before it is checked. */
import { applyPatch } from '../core/document/patch.ts';
import type { ShotDocument } from '../core/document/schema.ts';
import { BadUse } from './bad-use.ts';

/** @returns a copy with the values set; a value is JSON, or text when it is none */
export function setValues(document: ShotDocument, settings: string[]): ShotDocument {
  let out = structuredClone(document);
  for (const setting of settings) {
    const [, path, text] = /^(\/[^=]+)=(.*)$/s.exec(setting) ?? [];
    if (path === undefined) throw new BadUse(`--set is "${setting}"; it must look like /sheets/preview/samples=64.`);
    const value = parsed(text);
    try {
      out = applyPatch(out, [{ op: 'replace', path, value }]);
    } catch (error) {
      throw new BadUse(`--set ${setting}: there is nothing at ${path} to set.`, { cause: error });
    }
  }
  return out;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return text;
  }
}
