/**
 * Dusting from a shell. Exit codes: 0 done or clear, 3 caution, 4 stop, 2 bad input with one sentence on the error
 * stream, 1 anything else.
 */
import process from 'node:process';
import { InvalidInput } from '../core/document/problem.ts';
import { diagnoseCommand, DIAGNOSE_USAGE } from './diagnose.ts';
import { trialCommand, TRIAL_USAGE } from './trial.ts';
import { filesCommand, FILES_USAGE } from './files.ts';
import { logCommand, LOG_USAGE } from './log.ts';
import { importCommand, IMPORT_USAGE } from './import.ts';
import { bakeCommand, BAKE_USAGE } from './bake.ts';
import { preflightCommand, PREFLIGHT_USAGE } from './preflight.ts';
import { compareCommand, COMPARE_USAGE } from './compare.ts';
import { convertCommand, CONVERT_USAGE } from './convert.ts';
import { inspectCommand, INSPECT_USAGE } from './inspect.ts';
import { targetCommand, TARGET_USAGE } from './target.ts';
import { pathCommand, PATH_USAGE } from './path.ts';
import { layoutCommand, LAYOUT_USAGE } from './layout.ts';
import { renderCommand, RENDER_USAGE } from './render.ts';
import { BadUse } from './bad-use.ts';

/** A command may say with which code the process ends. */
const commands: Record<string, (args: string[]) => Promise<number | void>> = {
  render: renderCommand,
  bake: bakeCommand,
  import: importCommand,
  preflight: preflightCommand,
  files: filesCommand,
  log: logCommand,
  target: targetCommand,
  inspect: inspectCommand,
  compare: compareCommand,
  convert: convertCommand,
  diagnose: diagnoseCommand,
  trial: trialCommand,
  path: pathCommand,
  layout: layoutCommand,
};
const USAGE = [
  RENDER_USAGE,
  BAKE_USAGE,
  IMPORT_USAGE,
  PREFLIGHT_USAGE,
  FILES_USAGE,
  LOG_USAGE,
  TARGET_USAGE,
  INSPECT_USAGE,
  COMPARE_USAGE,
  CONVERT_USAGE,
  DIAGNOSE_USAGE,
  TRIAL_USAGE,
  PATH_USAGE,
  LAYOUT_USAGE,
].join('\n');

try {
  const [name = '', ...args] = process.argv.slice(2);
  if (name === '' || name === '--help' || name === 'help') console.log(USAGE);
  else if (!Object.hasOwn(commands, name))
    throw new BadUse(`There is no command "${name}"; there are ${Object.keys(commands).join(', ')}.`);
  else process.exitCode = (await commands[name](args)) ?? 0;
} catch (error) {
  const isInput = error instanceof BadUse || error instanceof InvalidInput || error instanceof RangeError;
  process.stderr.write(`${isInput ? (error as Error).message : ((error as Error).stack ?? error)}\n`);
  process.exitCode = isInput ? 2 : 1;
}
