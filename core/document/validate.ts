import { ShotDocumentSchema, type ShotDocument } from './schema.ts';
import { InvalidInput, type Problem } from './problem.ts';
import { parseJson } from './json-text.ts';
import { checkSchema } from './schema-check.ts';
import { completeDocument } from './complete.ts';
import { checkFigures } from './check-figures.ts';
import { checkReferences } from './check-references.ts';

/**
 * Completes and checks a parsed document: first its shape, then that what it refers to is there, then that
 * its figures go together.
 * @returns the complete document
 * @throws InvalidInput naming the path, the value and what was expected
 */
export function validateDocument(value: unknown, what = 'shot document'): ShotDocument {
  checkFinite(value, what);
  const completed = completeDocument(value);
  checkSchema(ShotDocumentSchema, completed, what);
  const document = completed as ShotDocument;
  const problems: Problem[] = [];
  checkReferences(document, problems);
  checkFigures(document, problems);
  if (problems.length) throw new InvalidInput(what, problems.slice(0, 20));
  return document;
}

/** JSON cannot hold NaN or infinities, but a document built in memory can; Ajv lets NaN pass a range. */
function checkFinite(value: unknown, what: string, path = ''): void {
  if (typeof value === 'number' && !Number.isFinite(value))
    throw new InvalidInput(what, [{ path, value: String(value), expected: 'a finite number' }]);
  if (value && typeof value === 'object')
    for (const [key, child] of Object.entries(value)) checkFinite(child, what, `${path}/${key}`);
}

/** Parses and checks a document's text. Text that is not JSON is refused with the place of the first fault. */
export function parseDocument(text: string, what = 'shot document'): ShotDocument {
  return validateDocument(parseJson(text, what), what);
}
