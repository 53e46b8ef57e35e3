/** Factors of samples in the numbers, and in the dials, of the renderer that made a picture, where a record tells what they stood at. */
import type { Target, TargetDial } from '../../intake/fit/target.ts';
import { kindOfPass, samplesIn, type SampledKind, type SettingsRecord } from '../../picture/settings-record.ts';

export interface RenderedWith {
  record: SettingsRecord;
  /** Whose dials its names are; null: names that say themselves what they count. */
  target: Target | null;
}

export interface InNumbers {
  name: string;
  from: number;
  to: number;
  /** What stands in the way; empty: nothing. */
  note: string;
}

/** @param pass whose samples are meant; null: those of everything. @returns null where the record does not say */
export function inNumbers({ record, target }: RenderedWith, factor: number, pass: string | null): InNumbers | null {
  const kind: SampledKind | null = pass === null ? 'pixel' : kindOfPass(pass);
  if (kind === null) return null;
  const dial = target?.dials?.find(({ ours }) =>
    ours.includes(kind === 'pixel' ? '/samples' : `/extraSamples/${kind}`),
  );
  if (!dial) {
    const found = samplesIn(record, kind);
    return found && { name: found.name, from: found.value, to: Math.ceil(found.value * factor - 1e-9), note: '' };
  }
  const from = record.get(dial.name) ?? (kind === 'pixel' ? pixelSamples(record, dial) : undefined);
  return from === undefined ? null : inDial(dial, from, factor);
}

/** Samples of a pixel by any other name mean the same number. */
function pixelSamples(record: SettingsRecord, { counts }: TargetDial): number | undefined {
  const samples = samplesIn(record, 'pixel')?.value;
  return samples !== undefined && counts === 'root of samples' ? Math.sqrt(samples) : samples;
}

function inDial({ name, counts, most, times, ours }: TargetDial, from: number, factor: number): InNumbers {
  const wanted = Math.ceil(from * (counts === 'root of samples' ? Math.sqrt(factor) : factor) - 1e-9);
  const to = Math.min(most ?? Infinity, wanted);
  const notes = [
    to < wanted ? `the dial goes to ${most}` : '',
    ours.length > 1 ? `it stands for ${ours.length} kinds at once` : '',
    times.length > 0 ? `times ${times.join(', ')}, as they are` : '',
  ];
  return { name, from, to, note: notes.filter(Boolean).join('; ') };
}
