/** Lines on the terminal, and the one way to give up. */
import process from 'node:process';

let terminal = process.stdout;

/** For commands whose output is data: what is told goes to the error stream from now on. */
export const tellOnErrorStream = () => (terminal = process.stderr);

/** File descriptor that lines go to. */
export const terminalFd = () => terminal.fd;

export const say = (line) => terminal.write(`${line}\n`);

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
