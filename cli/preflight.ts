/** `dusting preflight`: every check on a scene, against what a show expects. */
import { existsSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { extensionOf } from '../core/formats/paths.ts';
import type { CheckResult } from '../core/intake/preflight/check.ts';
import { defaultProfile, parseProfile } from '../core/intake/preflight/profile.ts';
import { REPORTS } from '../core/intake/preflight/report.ts';
import { overall, runPreflight } from '../core/intake/preflight/run.ts';
import type { Repaired } from '../core/intake/repair-all.ts';
import { BadUse } from './bad-use.ts';
import { openForIntake } from './open-scene.ts';
import { writeRepaired } from './write-repaired.ts';
import { parseOptions } from './options.ts';

export const PREFLIGHT_USAGE = `dusting preflight <shot folder | scene> [--profile p.json] [--report file.html|.md|.csv|.json]
    [--repair <check id>,… | all --out <new shot folder>] [--json]`;

const OPTIONS = {
  profile: { type: 'string' },
  report: { type: 'string' },
  repair: { type: 'string' },
  out: { type: 'string' },
  json: { type: 'boolean', default: false },
} as const;

/** What the shell is told: nothing, look at it, do not send it. */
export const EXIT_CODES = { clear: 0, caution: 3, stop: 4 } as const;

export async function preflightCommand(args: string[]): Promise<number> {
  const { values, positionals } = parseOptions(args, OPTIONS, PREFLIGHT_USAGE);
  if (positionals.length !== 1) throw new BadUse(`Name one shot folder or scene.\n${PREFLIGHT_USAGE}`);
  const kind = values.report === undefined ? null : extensionOf(values.report);
  if (kind !== null && !Object.hasOwn(REPORTS, kind))
    throw new BadUse(`--report is "${values.report}"; it must end in .${Object.keys(REPORTS).join(', .')}.`);
  if (values.profile !== undefined && !existsSync(values.profile)) throw new BadUse(`There is no "${values.profile}".`);
  const profile =
    values.profile === undefined
      ? defaultProfile()
      : parseProfile(await readFile(values.profile, 'utf8'), values.profile);
  let { source, document } = await openForIntake(positionals[0]);
  let done: Repaired['done'] = [];
  if (values.repair !== undefined) {
    if (!document) throw new BadUse('Repairs are carried out on shots: import the scene with "dusting import" first.');
    if (!values.out) throw new BadUse('Say with --out which folder the repaired shot goes into.');
    const ids = values.repair === 'all' ? null : values.repair.split(',');
    done = await writeRepaired(positionals[0], document, profile, ids, values.out);
    ({ source, document } = await openForIntake(values.out));
  }
  const results = runPreflight(source, profile, document);
  if (kind !== null) {
    const head = {
      scene: positionals[0],
      profile: profile.name,
      date: new Date().toISOString().slice(0, 16).replace('T', ' '),
    };
    await writeFile(values.report!, REPORTS[kind](results, head));
  }
  console.log(values.json ? JSON.stringify({ checks: results.map(forShell), repaired: done }) : tell(results, done));
  return EXIT_CODES[overall(results)];
}

const forShell = ({ id, state, expected, found, offenders, repair }: CheckResult) => ({
  id,
  state,
  expected,
  found,
  offenders,
  repair,
});

function tell(results: CheckResult[], done: Repaired['done']): string {
  const lines = results
    .filter(({ state }) => state === 'stop' || state === 'caution')
    .sort((a, b) => Number(b.state === 'stop') - Number(a.state === 'stop'))
    .flatMap(({ id, state, expected, found, offenders, repair }) => [
      `${state.padEnd(8)}${id}: expected ${expected}; found ${found}${repair ? ` (repair: ${repair.label})` : ''}`,
      ...offenders.slice(0, 20).map(({ object, detail }) => `          ${object}: ${detail}`),
      ...(offenders.length > 20 ? [`          and ${offenders.length - 20} more`] : []),
    ]);
  const count = (state: string) => results.filter((result) => result.state === state).length;
  return [
    ...done.map(({ id, label }) => `repaired ${id}: ${label}`),
    ...lines,
    `${count('stop')} stop, ${count('caution')} caution, ${count('clear')} clear, ${count('not-run')} not run`,
  ].join('\n');
}
