/** What intake knows of the open shot, read anew when its version or the state of its checks changes. */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { BroughtFiles, DryRunTold, Intake, IntakeFile, PreflightState } from '../../core/contracts/intake.ts';
import { getJson, post, sendFiles, type Sending, type UploadFile } from '../remote/client.ts';
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
    () =>
      shot.state &&
      `${shot.state.code} ${shot.state.head.id} ${shot.state.preflight?.state} ${shot.state.preflight?.run}`,
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

  /** Checks that have a repair, and files that cannot be sent as they are. */
  const repairs = computed(() => intake.value?.checks.filter(({ repair: one }) => one).length ?? 0);
  const broken = computed(() => files.value.filter(({ state }) => state !== 'ok').length);

  /** Carries out a repair of a check, of the target, or all of the checks (null): a new version. */
  async function repair(id: string | null, label: string): Promise<void> {
    try {
      await post(`/shots/${shot.state!.code}/repairs`, { base: shot.state!.head.id, check: id });
      useMessages().done(`${label}: done, as a version of its own. Undo reverts it.`);
    } catch (error) {
      useMessages().refused(error);
    }
  }

  const sending = shallowRef<Sending<BroughtFiles> | null>(null);
  const sent = ref(0);
  /** Files that are missing, or newer ones of those that are there: a new version. */
  async function bringFiles(files: UploadFile[]): Promise<void> {
    if (files.length === 0) return;
    sent.value = 0;
    const path = `/shots/${shot.state!.code}/files?base=${shot.state!.head.id}`;
    sending.value = sendFiles<BroughtFiles>(files, (share) => (sent.value = share), path);
    try {
      const { found, replaced, unclear, lost } = await sending.value.done;
      const told = [
        found.length && `${found.length} found`,
        replaced.length && `${replaced.length} replaced`,
        unclear.length && `${unclear.length} could be several`,
        lost.length && `${lost.length} still missing`,
      ];
      useMessages().done(`${told.filter(Boolean).join(', ')}. Undo reverts it.`);
    } catch (error) {
      useMessages().refused(error);
    } finally {
      sending.value = null;
    }
  }

  /** Opens the package where nothing else is and renders it there. */
  const dry = shallowRef<DryRunTold | 'running' | null>(null);
  async function dryRun(): Promise<void> {
    dry.value = 'running';
    try {
      dry.value = await post<DryRunTold>(`/shots/${shot.state!.code}/dry-run`);
    } catch (error) {
      dry.value = null;
      useMessages().refused(error);
    }
  }
  watch(
    () => shot.state?.head.id,
    () => (dry.value = null),
  );

  return { intake, counts, files, repairs, broken, sending, sent, dry, read, repair, bringFiles, dryRun };
});
