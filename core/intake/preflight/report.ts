/** What preflight found as a report to keep, to print or to work on: HTML, Markdown, CSV (RFC 4180) and JSON. */
import type { CheckResult, CheckState } from './check.ts';
import { overall } from './run.ts';

export interface ReportHead {
  scene: string;
  profile: string;
  /** When it was made, as people read it. */
  date: string;
}

type Write = (results: CheckResult[], head: ReportHead) => string;

const WORDS: Record<CheckState, string> = { clear: 'clear', caution: 'caution', stop: 'stop', 'not-run': 'not run' };
const ORDER: CheckState[] = ['stop', 'caution', 'not-run', 'clear'];
const worstFirst = (results: CheckResult[]): CheckResult[] =>
  ORDER.flatMap((state) => results.filter((result) => result.state === state));
const summary = (results: CheckResult[]): string =>
  ORDER.map((state) => `${results.filter((result) => result.state === state).length} ${WORDS[state]}`).join(', ');

export const REPORTS: Record<string, Write> = {
  json: (results, head) => JSON.stringify({ ...head, overall: overall(results), checks: results }, null, 2),
  csv: (results) =>
    [
      ['check', 'group', 'state', 'expected', 'found', 'object', 'detail', 'count'],
      ...results.flatMap(
        ({ id, group, state, expected, found, offenders }) =>
        (offenders.length ? offenders : [{ object: '', detail: '', count: '' }]).map(({ object, detail, count }) => [
          id, group, state, expected, found, object, detail, String(count),
        ]), // prettier-ignore
      ),
    ]
      .map((row) => row.map(csvField).join(','))
      .join('\r\n') + '\r\n',
  md: (results, { scene, profile, date }) =>
    [
      `# Preflight of ${markdown(scene)}: ${overall(results)}`,
      '',
      `${summary(results)}. Profile: ${markdown(profile)}. ${date}.`,
      '',
      ...worstFirst(results).flatMap(({ id, title, state, expected, found, why, offenders }) =>
        state === 'clear' || state === 'not-run'
          ? []
          : [
              `## ${WORDS[state]}: ${title} (\`${id}\`)`,
              '',
              `Expected ${markdown(expected)}; found ${markdown(found)}. ${why}`,
              '',
              ...offenders.map(({ object, detail }) => `- ${markdown(object)}: ${markdown(detail)}`),
              '',
            ],
      ),
      '## The others',
      '',
      ...worstFirst(results)
        .filter(({ state }) => state === 'clear' || state === 'not-run')
        .map(
          ({ id, title, state, found }) =>
            `- ${WORDS[state]}: ${title} (\`${id}\`)${found ? `, ${markdown(found)}` : ''}`,
        ),
      '',
    ].join('\n'),
  html: (results, head) => html(results, head),
};

/** A field in quotes where it needs them; one that a spreadsheet would take for a formula is kept text. */
function csvField(value: string): string {
  const text = /^[=+\-@\t]/.test(value) ? `'${value}` : value;
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

const markdown = (text: string): string => text.replaceAll(/[\\`*_{}[\]<>#|]/g, (sign) => `\\${sign}`);
const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

function html(results: CheckResult[], { scene, profile, date }: ReportHead): string {
  const section = ({ id, title, state, expected, found, why, offenders }: CheckResult) => `
<section class="${state}">
<h2><b>${WORDS[state]}</b> ${escaped(title)} <code>${id}</code></h2>
<p>Expected ${escaped(expected)}; found ${escaped(found)}. ${escaped(why)}</p>
${offenders.length ? `<table><thead><tr><th>What</th><th>Detail</th><th>Count</th></tr></thead><tbody>${offenders.map(({ object, detail, count }) => `<tr><td>${escaped(object)}</td><td>${escaped(detail)}</td><td>${count}</td></tr>`).join('\n')}</tbody></table>` : ''}
</section>`;
  const told = worstFirst(results).filter(({ state }) => state === 'stop' || state === 'caution');
  const others = worstFirst(results).filter(({ state }) => state === 'clear' || state === 'not-run');
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>Preflight of ${escaped(scene)}</title>
<style>
body { font: 14px/1.45 system-ui, sans-serif; color: #1c1d21; max-width: 60em; margin: 2em auto; padding: 0 1em; }
h1 { font-size: 1.5em; } h2 { font-size: 1.05em; margin: 0 0 .3em; } code { color: #5b5f6b; font-weight: normal; }
section { border-left: 4px solid #9aa0ad; padding: .2em 0 .4em .9em; margin: 1.2em 0; break-inside: avoid; }
section.stop { border-style: double; border-left-width: 8px; border-color: #1c1d21; }
table { border-collapse: collapse; width: 100%; } th, td { text-align: left; padding: .25em .8em .25em 0; border-bottom: 1px solid #d8dae0; overflow-wrap: anywhere; vertical-align: top; }
thead { display: table-header-group; } td:last-child, th:last-child { text-align: right; font-variant-numeric: tabular-nums; }
@media print { body { margin: 0; max-width: none; font-size: 10pt; } }
</style></head><body>
<h1>Preflight of ${escaped(scene)}: ${overall(results)}</h1>
<p>${escaped(summary(results))}. Profile: ${escaped(profile)}. ${escaped(date)}.</p>
${told.map(section).join('')}
<h2>The others</h2>
<ul>${others.map(({ id, title, state, found }) => `<li>${WORDS[state]}: ${escaped(title)} <code>${id}</code>${found ? `, ${escaped(found)}` : ''}</li>`).join('\n')}</ul>
</body></html>
`;
}
