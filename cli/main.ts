/**
 * Dusting from a shell. Exit codes: 0 done or clear, 3 caution, 4 stop, 2 bad input with one sentence on the error
 * stream, 1 anything else. A command is loaded when it is asked for.
 */
import process from 'node:process';
import { InvalidInput } from '../core/document/problem.ts';
import { BadUse } from './bad-use.ts';

interface Command {
  usage: string;
  /** May say with which code the process ends. */
  run(args: string[]): Promise<number | void>;
}

const commands: Record<string, () => Promise<Command>> = {
  render: async () => import('./render.ts').then((m) => ({ usage: m.RENDER_USAGE, run: m.renderCommand })),
  bake: async () => import('./bake.ts').then((m) => ({ usage: m.BAKE_USAGE, run: m.bakeCommand })),
  import: async () => import('./import.ts').then((m) => ({ usage: m.IMPORT_USAGE, run: m.importCommand })),
  preflight: async () => import('./preflight.ts').then((m) => ({ usage: m.PREFLIGHT_USAGE, run: m.preflightCommand })),
  files: async () => import('./files.ts').then((m) => ({ usage: m.FILES_USAGE, run: m.filesCommand })),
  log: async () => import('./log.ts').then((m) => ({ usage: m.LOG_USAGE, run: m.logCommand })),
  target: async () => import('./target.ts').then((m) => ({ usage: m.TARGET_USAGE, run: m.targetCommand })),
  inspect: async () => import('./inspect.ts').then((m) => ({ usage: m.INSPECT_USAGE, run: m.inspectCommand })),
  compare: async () => import('./compare.ts').then((m) => ({ usage: m.COMPARE_USAGE, run: m.compareCommand })),
  convert: async () => import('./convert.ts').then((m) => ({ usage: m.CONVERT_USAGE, run: m.convertCommand })),
  diagnose: async () => import('./diagnose.ts').then((m) => ({ usage: m.DIAGNOSE_USAGE, run: m.diagnoseCommand })),
  trial: async () => import('./trial.ts').then((m) => ({ usage: m.TRIAL_USAGE, run: m.trialCommand })),
  ask: async () => import('./ask.ts').then((m) => ({ usage: m.ASK_USAGE, run: m.askCommand })),
  'preview-shadows': async () => import('./preview-shadows.ts').then((m) => ({ usage: m.PREVIEW_SHADOWS_USAGE, run: m.previewShadowsCommand })), // prettier-ignore
  path: async () => import('./path.ts').then((m) => ({ usage: m.PATH_USAGE, run: m.pathCommand })),
  layout: async () => import('./layout.ts').then((m) => ({ usage: m.LAYOUT_USAGE, run: m.layoutCommand })),
};

try {
  const [name = '', ...args] = process.argv.slice(2);
  if (name === '' || name === '--help' || name === 'help') {
    const all = await Promise.all(Object.values(commands).map((load) => load()));
    console.log(all.map(({ usage }) => usage).join('\n'));
  } else if (!Object.hasOwn(commands, name))
    throw new BadUse(`There is no command "${name}"; there are ${Object.keys(commands).join(', ')}.`);
  else {
    const { usage, run } = await commands[name]();
    if (args.includes('--help')) console.log(usage);
    else process.exitCode = (await run(args)) ?? 0;
  }
} catch (error) {
  const isInput = error instanceof BadUse || error instanceof InvalidInput || error instanceof RangeError;
  process.stderr.write(`${isInput ? (error as Error).message : ((error as Error).stack ?? error)}\n`);
  process.exitCode = isInput ? 2 : 1;
}
