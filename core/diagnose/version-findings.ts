/**
 * Preflight of a version as findings: those that stop or want a look, with the causes of the catalogue where a check sees one
 * of them. A fault that a render shows as well is told once, by the render, with the check's id.
 *
 * @example
 * const list = together(found.map(({ finding }) => finding), versionFindings(runPreflight(source, profile, document)));
 */
import type { Finding, Remedy } from '../contracts/finding.ts';
import type { PreflightCheck } from '../contracts/intake.ts';
import { ALSO_OF_CHECK, CAUSE_OF_CHECK, UPSTREAM_CHECKS } from './check-causes.ts';
import { byUrgency } from './order.ts';
import { listed } from './words.ts';

/** Offenders that are told, in rows and by name; preflight has them all. */
const MOST_ROWS = 200;

export function versionFindings(checks: PreflightCheck[]): Finding[] {
  return checks.flatMap((check) => (check.state === 'stop' || check.state === 'caution' ? [findingOf(check, check.state)] : [])); // prettier-ignore
}

function findingOf(
  { id, title, why, expected, found, offenders, repair }: PreflightCheck,
  severity: 'stop' | 'caution',
): Finding {
  const cause = CAUSE_OF_CHECK[id] ?? `preflight.${id}`;
  const objects = offenders.map(({ object }) => object);
  const remedy: Remedy[] = repair
    ? [{ id: 'repair', title: repair.label, change: { kind: 'files', patch: repair.patch, work: repair.work }, predicted: null }] // prettier-ignore
    : [];
  return {
    of: 'version',
    family: cause.slice(0, cause.indexOf('.')),
    cause,
    causes: [{ id: cause, share: 1 }],
    check: id,
    key: `preflight.${id}`,
    severity,
    sentence: `${title}: ${found}.`,
    headline: objects.length ? `${title}: ${listed(objects)}` : title,
    why: `Expected ${expected}; found ${found}. ${why}`,
    where: { region: null, pixels: 0, objects: objects.slice(0, MOST_ROWS), passes: [] },
    dials: [],
    evidence: offenders.length
      ? [{ kind: 'table', title: 'Where', columns: ['what', 'detail', 'count'], rows: offenders.slice(0, MOST_ROWS).map(({ object, detail, count }) => [object, detail, count]) }]
      : [],
    remedies: remedy,
  }; // prettier-ignore
}

type Line = Pick<Finding, 'key' | 'cause' | 'check' | 'severity' | 'of' | 'after'>;

/**
 * One list of what a render and its version show, the most urgent first. What both see is told once, by the render; where
 * files are missing or nothing lights, what renders show waits for that.
 */
export function together<R extends Line, V extends Line>(ofRender: R[], ofVersion: V[]): (R | V)[] {
  const causesOf = ({ cause, check }: Line): string[] => [cause, ...(ALSO_OF_CHECK[check ?? ''] ?? [])];
  const checks = new Map(ofVersion.flatMap((one) => causesOf(one).map((cause) => [cause, one.check])));
  const causes = new Set(ofRender.map(({ cause }) => cause));
  const above = ofVersion
    .filter(({ check, severity }) => severity === 'stop' && UPSTREAM_CHECKS.has(check ?? ''))
    .map(({ key }) => key);
  const rendered = ofRender.map((one) => {
    const check = checks.get(one.cause) ?? one.check;
    const after = [...above, ...(one.after ?? [])];
    return { ...one, ...(check === undefined ? {} : { check }), ...(after.length ? { after } : {}) };
  });
  const rest = ofVersion.filter((one) => !causesOf(one).some((cause) => causes.has(cause)));
  return byUrgency([...rendered, ...rest].map((finding) => ({ finding }))).map(({ finding }) => finding); // prettier-ignore
}
