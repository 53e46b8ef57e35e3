/**
 * Dusting from a shell. Exit codes: 0 done, 2 bad input with one sentence on the error stream, 1 anything else.
 */
import process from 'node:process';
import { InvalidInput } from '../core/document/problem.ts';
import { importCommand, IMPORT_USAGE } from './import.ts';
import { bakeCommand, BAKE_USAGE } from './bake.ts';
import { renderCommand, RENDER_USAGE } from './render.ts';
import { BadUse } from './bad-use.ts';

const commands: Record<string, (args: string[]) => Promise<void>> = {
  render: renderCommand,
  bake: bakeCommand,
  import: importCommand,
};
const USAGE = [RENDER_USAGE, BAKE_USAGE, IMPORT_USAGE].join('\n');

try {
  const [name = '', ...args] = process.argv.slice(2);
  if (name === '' || name === '--help' || name === 'help') console.log(USAGE);
  else if (!Object.hasOwn(commands, name))
    throw new BadUse(`There is no command "${name}"; there are ${Object.keys(commands).join(' and ')}.`);
  else await commands[name](args);
} catch (error) {
  const isInput = error instanceof BadUse || error instanceof InvalidInput || error instanceof RangeError;
  process.stderr.write(`${isInput ? (error as Error).message : ((error as Error).stack ?? error)}\n`);
  process.exitCode = isInput ? 2 : 1;
}
