/**
 * Whether a value fits a schema, and if not, every place where it does not, as path, value and expectation. TypeBox tells
 * the verdict from the schema itself; Ajv, which first makes code of it, words what is wrong. Making that code takes
 * 0.6 s for a document, a hundred times as long as checking one, so nothing that is as it should be waits for it. Where a
 * page's policy forbids making code from text, TypeBox words it too, more plainly.
 */
import type { TSchema } from '@sinclair/typebox';
import { Value } from '@sinclair/typebox/value';
import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';
import { CODE_PATTERN, ID_PATTERN } from './schema/common.ts';
import { isSafePath, SAFE_PATH } from './safe-path.ts';
import { InvalidInput, showValue, type Problem } from './problem.ts';

const ajv = new Ajv({ allErrors: true, verbose: true, strict: false, logger: false });
ajv.addFormat(SAFE_PATH, isSafePath);
const compiled = new WeakMap<TSchema, ValidateFunction>();
/** Code must not be made from text here. */
let isForbidden = false;

/**
 * Throws InvalidInput unless `value` fits `schema`.
 * @param what how the value is called in the message, for example `HA-010/shot.json`
 */
export function checkSchema(schema: TSchema, value: unknown, what: string): void {
  const isFit = hasEnum(schema) ? validatorOf(schema)?.(value) : undefined;
  if (!(isFit ?? Value.Check(schema, value))) throw new InvalidInput(what, problemsOf(schema, value));
}

const withEnum = new WeakMap<TSchema, boolean>();
/** TypeBox does not look at `enum`: schemas with one are small, and left to Ajv. */
function hasEnum(schema: TSchema): boolean {
  const known = withEnum.get(schema);
  if (known !== undefined) return known;
  const found = JSON.stringify(schema).includes('"enum":');
  withEnum.set(schema, found);
  return found;
}

function problemsOf(schema: TSchema, value: unknown): Problem[] {
  const validate = validatorOf(schema);
  if (validate === null || validate(value)) return plainProblems(schema, value);
  const errors = (validate.errors ?? []).filter((e) => e.keyword !== 'anyOf');
  return (errors.length ? errors : (validate.errors ?? [])).slice(0, 20).map(problemOf);
}

/** Null where code must not be made from text. */
function validatorOf(schema: TSchema): ValidateFunction | null {
  const known = compiled.get(schema);
  if (known || isForbidden) return known ?? null;
  try {
    const made = ajv.compile(schema);
    compiled.set(schema, made);
    return made;
  } catch (error) {
    if (!(error instanceof EvalError)) throw error;
    isForbidden = true;
    return null;
  }
}

export const plainProblems = (schema: TSchema, value: unknown): Problem[] =>
  [...Value.Errors(schema, value)]
    .slice(0, 20)
    .map(({ path, value: found, message }) => ({ path, value: showValue(found), expected: message }));

function problemOf(error: ErrorObject): Problem {
  const path = error.instancePath;
  const child = (key: string) => `${path}/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`;
  const value = showValue(error.data);
  const { params } = error;
  switch (error.keyword) {
    case 'additionalProperties': {
      const key = params.additionalProperty as string;
      return { path: child(key), value: 'there', expected: 'no such key' };
    }
    case 'required':
      return { path: child(params.missingProperty as string), value: 'missing', expected: 'a value' };
    case 'type':
      return { path, value, expected: `a value of type ${params.type}` };
    case 'minimum':
      return { path, value, expected: `at least ${params.limit}` };
    case 'maximum':
      return { path, value, expected: `at most ${params.limit}` };
    case 'multipleOf':
      return { path, value, expected: `a multiple of ${params.multipleOf}` };
    case 'pattern':
      return { path, value, expected: describePattern(params.pattern as string, error.parentSchema) };
    case 'format':
      return { path, value, expected: 'a path inside the shot folder, with forward slashes and ordinary names' };
    case 'const':
      return { path, value, expected: showValue(params.allowedValue) };
    case 'enum':
      return { path, value, expected: `one of ${(params.allowedValues as unknown[]).join(', ')}` };
    case 'minItems':
    case 'maxItems':
      return { path, value, expected: `exactly ${params.limit} values` };
    default:
      return { path, value, expected: error.message ?? 'something else' };
  }
}

function describePattern(pattern: string, schema: unknown): string {
  if (pattern === CODE_PATTERN) return 'a code of letters, digits, "_" and "-"';
  if (pattern === ID_PATTERN) return 'an id of letters, digits, "_", "." and "-"';
  return (schema as { description?: string }).description ?? `text like ${pattern}`;
}
