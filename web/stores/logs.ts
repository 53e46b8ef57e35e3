/** The logs of the open shot, judged by the server; read anew when the shot changes. */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { LogKindTold, ShotLog } from '../../core/contracts/intake.ts';
import { getJson, post, remove, sendText, type Sending } from '../remote/client.ts';
import { useMessages } from './messages.ts';
import { useShot } from './shot.ts';

export const useLogs = defineStore('logs', () => {
  const shot = useShot();
  /** Newest first; null: not read yet. */
  const logs = shallowRef<ShotLog[] | null>(null);
  const logId = ref<number | null>(null);
  const kindKey = ref<string | null>(null);
  const sending = shallowRef<Sending<{ id: number }> | null>(null);
  const sent = ref(0);

  const path = (rest: string) => `/shots/${shot.state!.code}${rest}`;
  async function read(): Promise<void> {
    const code = shot.state?.code;
    if (!code) return;
    try {
      const found = await getJson<ShotLog[]>(path('/logs'));
      if (shot.state?.code === code) logs.value = found;
    } catch (error) {
      useMessages().refused(error);
    }
  }
  watch(
    () => {
      // Our own log grows with its render: it is read anew at each tenth of it.
      const own = shot.bases.at(-1);
      const grown = own ? `${own.id} ${own.state} ${Math.floor(own.progress * 10)}` : '';
      return shot.state && `${shot.state.code} ${shot.state.head.id} ${shot.state.logs} ${grown}`;
    },
    (now, before) => {
      if (now?.split(' ')[0] !== before?.split(' ')[0]) logs.value = null;
      if (now) void read();
    },
    { immediate: true },
  );

  /** The chosen one, or the newest that tells of a stop, or the newest. */
  const log = computed(() => {
    const all = logs.value ?? [];
    return all.find(({ id }) => id === logId.value) ?? all.find(({ state }) => state === 'stop') ?? all[0] ?? null;
  });
  const kind = computed(() => log.value?.kinds.find(({ key }) => key === kindKey.value) ?? log.value?.kinds[0] ?? null);
  const stops = computed(() => logs.value?.filter(({ state }) => state === 'stop').length ?? 0);

  async function bringIn(file: File): Promise<void> {
    sent.value = 0;
    sending.value = sendText<{ id: number }>(path('/logs'), file, (share) => (sent.value = share));
    try {
      logId.value = (await sending.value.done).id;
      await read();
    } catch (error) {
      useMessages().refused(error);
    } finally {
      sending.value = null;
    }
  }
  async function attempt(work: Promise<unknown>): Promise<void> {
    try {
      await work;
      await read();
    } catch (error) {
      useMessages().refused(error);
    }
  }

  return {
    logs, log, kind, logId, kindKey, stops, sending, sent, bringIn,
    decide: ({ key }: LogKindTold, harmless: boolean | null, why: string) => attempt(post(path('/log-decisions'), { key, harmless, why })),
    readAs: ({ id }: ShotLog, format: string) => attempt(post(`/logs/${id}/format`, { format })),
    addStatistics: ({ id }: ShotLog, file: File) => attempt(sendText(`/logs/${id}/statistics`, file).done),
    drop: ({ id }: ShotLog) => attempt(remove(`/logs/${id}`)),
  };
}); // prettier-ignore
