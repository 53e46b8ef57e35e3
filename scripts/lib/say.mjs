/** Lines on the terminal, and the one way to give up. */
import process from 'node:process';

export const say = (line) => process.stdout.write(`${line}\n`);

/** A reason to stop that a person can act on: printed without a stack. */
export class CannotGoOn extends Error {}

/** Runs `main`; a CannotGoOn ends the process with its sentence alone. */
export async function run(main) {
  try {
    await main();
  } catch (error) {
    if (!(error instanceof CannotGoOn)) throw error;
    process.stderr.write(`\n${error.message}\n`);
    process.exit(1);
  }
}
