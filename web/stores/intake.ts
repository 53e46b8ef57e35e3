/** What intake knows of the open shot, read anew when its version or the state of its checks changes. */
import { defineStore } from 'pinia';
import { computed, shallowRef, watch } from 'vue';
import type { Intake, IntakeFile, PreflightCheck, PreflightState } from '../../core/contracts/intake.ts';
import { getJson, post } from '../remote/client.ts';
import { useMessages } from './messages.ts';
import { useShot } from './shot.ts';

/** Worst first. */
const FILE_ORDER: IntakeFile['state'][] = ['missing', 'unreadable', 'outside', 'absolute', 'case', 'ok'];

export const useIntake = defineStore('intake', () => {
  const shot = useShot();
  const intake = shallowRef<Intake | null>(null);

  async function read(): Promise<void> {
    const code = shot.state?.code;
    if (!code) return;
    try {
      const found = await getJson<Intake>(`/shots/${code}/intake`);
      if (shot.state?.code === code) intake.value = found;
    } catch (error) {
      useMessages().refused(error);
    }
  }
  watch(
    () => shot.state && `${shot.state.code} ${shot.state.head.id} ${shot.state.preflight?.state}`,
    (now, before) => {
      if (now?.split(' ')[0] !== before?.split(' ')[0]) intake.value = null;
      if (now) void read();
    },
    { immediate: true },
  );

  const counts = computed<Record<PreflightState, number>>(() => {
    const out = { stop: 0, caution: 0, clear: 0, 'not-run': 0 };
    for (const { state } of intake.value?.checks ?? []) out[state] += 1;
    return out;
  });
  const files = computed(() =>
    [...(intake.value?.files ?? [])].sort(
      (a, b) => FILE_ORDER.indexOf(a.state) - FILE_ORDER.indexOf(b.state) || b.bytes - a.bytes,
    ),
  );

  /** Carries out a check's repair: a new version. */
  async function repair(check: PreflightCheck): Promise<void> {
    try {
      await post(`/shots/${shot.state!.code}/repairs`, { base: shot.state!.head.id, check: check.id });
      useMessages().done(`${check.repair!.label}: done, as a version of its own. Undo takes it back.`);
    } catch (error) {
      useMessages().refused(error);
    }
  }

  return { intake, counts, files, read, repair };
});
