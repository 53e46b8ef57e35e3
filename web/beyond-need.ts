/** Limits that are set by hand above what the light was found to need: said before they are kept. */
import type { DialNeed, Finding } from '../core/contracts/finding.ts';
import { dialAt, type DialValue } from '../core/document/dials.ts';

/**
 * @param pending values by pointer that wait to be kept. @param findings in full, of the family of limits
 * @returns a sentence each, "Transmission limit 60 is beyond what the light needs here, 24."
 */
export function beyondNeed(pending: Record<string, DialValue>, findings: readonly Pick<Finding, 'dials'>[]): string[] {
  const needs = new Map<string, number>();
  for (const { pointer, needs: need } of findings.flatMap(({ dials }): DialNeed[] => dials))
    if (need !== null) needs.set(pointer, Math.max(need, needs.get(pointer) ?? 0));
  return Object.entries(pending).flatMap(([pointer, value]) => {
    const need = needs.get(pointer);
    if (!pointer.startsWith('/limits/') || need === undefined || typeof value !== 'number' || value <= need) return [];
    return [`${dialAt(pointer).label} ${value} is beyond what the light needs here, ${need}.`];
  });
}
