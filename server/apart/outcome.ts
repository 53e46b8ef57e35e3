/** How a task ends, as plain data: classes of errors do not cross from process to process. */
import { InvalidInput, type Problem } from '../../core/document/problem.ts';
import { DamagedBlob } from '../blobs.ts';
import { RequestError, storageFault } from '../errors.ts';

export type Outcome<T> =
  | { value: T }
  | { invalid: { what: string; problems: Problem[] } }
  | { refused: { status: number; message: string } }
  | { damaged: { hash: string; isGone: boolean; path: string | null } }
  | { fault: { message: string; stack: string } };

export async function outcomeOf<T>(work: () => T | Promise<T>): Promise<Outcome<T>> {
  try {
    return { value: await work() };
  } catch (error) {
    if (error instanceof InvalidInput) return { invalid: { what: error.what, problems: error.problems } };
    if (error instanceof RequestError) return { refused: { status: error.status, message: error.message } };
    if (error instanceof DamagedBlob) return { damaged: { hash: error.hash, isGone: error.isGone, path: error.path } };
    const fault = storageFault(error);
    if (fault) return { refused: { status: 507, message: `${fault} Nothing was kept.` } };
    const { message, stack } = error as Error;
    return { fault: { message, stack: String(stack) } };
  }
}

/** @throws what the task threw, as an error of its class */
export function valueOf<T>(outcome: Outcome<T>): T {
  if ('value' in outcome) return outcome.value;
  if ('invalid' in outcome) throw new InvalidInput(outcome.invalid.what, outcome.invalid.problems);
  if ('refused' in outcome) throw new RequestError(outcome.refused.status, outcome.refused.message);
  if ('damaged' in outcome) {
    const { hash, isGone, path } = outcome.damaged;
    throw new DamagedBlob(hash, isGone, path);
  }
  const error = new Error(outcome.fault.message);
  error.stack = outcome.fault.stack;
  throw error;
}
