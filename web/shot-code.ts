import { CODE_PATTERN } from '../core/document/schema/common.ts';

/** What is wrong with a code that somebody types; empty: nothing. */
export const codeProblem = (code: string): string =>
  code.length <= 40 && new RegExp(CODE_PATTERN).test(code)
    ? ''
    : 'A code has letters, digits, “-” and “_”, forty at most.';
