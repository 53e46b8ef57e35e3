/** What each list of the intake comes to, in a sentence. */
import { computed, type Ref } from 'vue';
import { number } from './format.ts';
import { countSeverities } from './severity-words.ts';
import { useIntake } from './stores/intake.ts';
import { useLogs } from './stores/logs.ts';

export const SECTIONS = ['log', 'preflight', 'files', 'target', 'came-in'] as const;
export type Section = (typeof SECTIONS)[number];

const many = (n: number, what: string): string => `${n === 1 ? 'One' : number(n)} ${what}${n === 1 ? '' : 's'}`;

/** The heading of a section, and a line below it with its figures; empty where there are none. */
export function useHeadline(section: Ref<Section>, isChecking: Ref<boolean>) {
  const store = useIntake();
  const logs = useLogs();
  const HEADLINES: Record<Section, () => string> = {
    log() {
      if (!logs.logs?.length) return 'Logs';
      if (logs.stops === 0) return 'No log of this shot has a blocker';
      return `${logs.stops} of ${logs.logs.length} logs ${logs.stops === 1 ? 'has' : 'have'} a blocker`;
    },
    files: () =>
      store.broken
        ? `${many(store.broken, 'file')} can’t be sent as ${store.broken === 1 ? 'it is' : 'they are'}`
        : 'Every file can be sent',
    target() {
      const fit = store.intake?.fit;
      if (!fit) return 'No target renderer chosen';
      return fit.losses.length
        ? `${many(fit.losses.length, 'feature')} of this shot ${fit.target} does not support`
        : `${fit.target} supports all of this shot`;
    },
    'came-in': () => 'How the shot was imported',
    preflight() {
      const { stop, caution } = store.counts;
      if (stop) return `${many(stop, 'blocker')} before this shot can be sent`;
      return caution ? `No blockers; ${many(caution, 'warning').toLowerCase()} to check` : 'Clear to send';
    },
  };
  const summary = computed(() => {
    const { intake, counts } = store;
    if (section.value === 'files')
      return `${store.files.length} files, ${number((intake?.totalBytes ?? 0) / 2 ** 20, 1)} MB.`;
    if (section.value !== 'preflight') return '';
    if (intake?.state === 'failed') return intake.error ?? '';
    if (isChecking.value) return 'Every check on every object; this takes a few seconds.';
    const { stop, caution, clear, 'not-run': notRun } = counts;
    const n = store.repairs;
    const offered = n ? ` ${n} ${n === 1 ? 'has a repair' : 'have a repair'} that can be undone.` : '';
    const found = countSeverities(counts);
    return `${stop + caution + clear + notRun} checks in ${number(intake?.seconds ?? 0, 1)} s: ${found ? `${found}, ` : ''}${clear} clear, ${notRun} not run.${offered}`;
  });
  return { headline: computed(() => HEADLINES[section.value]()), summary };
}
