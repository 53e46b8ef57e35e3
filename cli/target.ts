/** `dusting target`: what a renderer will not do as the shot has it, and what to type in there. */
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import type { TargetFit } from '../core/contracts/intake.ts';
import { fitTarget } from '../core/intake/fit/fit.ts';
import { TARGETS } from '../core/intake/fit/registry.ts';
import { parseTarget, type Target } from '../core/intake/fit/target.ts';
import { BadUse } from './bad-use.ts';
import { openForIntake } from './open-scene.ts';
import { parseOptions } from './options.ts';
import { EXIT_CODES } from './preflight.ts';

export const TARGET_USAGE = `dusting target <shot folder> --target <${TARGETS.map(({ name }) => name.toLowerCase()).join(' | ')} | target.json> [--json]`;

const OPTIONS = { target: { type: 'string' }, json: { type: 'boolean', default: false } } as const;

export async function targetCommand(args: string[]): Promise<number> {
  const { values, positionals } = parseOptions(args, OPTIONS, TARGET_USAGE);
  if (positionals.length !== 1 || !values.target)
    throw new BadUse(`Name one shot folder and a target.\n${TARGET_USAGE}`);
  const target = await targetOf(values.target);
  const { source, document } = await openForIntake(positionals[0]);
  if (!document) throw new BadUse('Targets are compared with shots: import the scene with "dusting import" first.');
  const fit = fitTarget(source, document, target);
  console.log(values.json ? JSON.stringify(fit) : tell(fit));
  return fit.losses.length ? EXIT_CODES.caution : EXIT_CODES.clear;
}

export async function targetOf(name: string): Promise<Target> {
  const known = TARGETS.find((target) => target.name.toLowerCase() === name.toLowerCase());
  if (known) return known;
  if (!existsSync(name)) throw new BadUse(`There is no target and no file "${name}".`);
  return parseTarget(await readFile(name, 'utf8'), name);
}

function tell({ target, losses, dials, before }: TargetFit): string {
  return [
    losses.length ? `For ${target}:` : `${target} does all of it.`,
    ...losses.flatMap(({ title, fate, items, looks, repair }) => [
      `${fate.padEnd(11)}${title}: ${looks}${repair ? ` (repair: ${repair.label})` : ''}`,
      ...items.map(({ object, detail }) => `           ${object}: ${detail}`),
    ]),
    ...(dials.length ? ['To type in there:'] : []),
    ...dials.map(({ name, value, from }) => `${value.padStart(10)}  ${name} (${from})`),
    ...(before.length ? ['Before the first frame:'] : []),
    ...before.map(({ what, seconds }) => `${seconds.toFixed(1).padStart(8)} s  ${what}`),
  ].join('\n');
}
