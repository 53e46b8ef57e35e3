/** The pixel under the pointer, or a small area about it, of whatever is looked at: every channel's value. */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { RenderSummary } from '../../core/contracts/events.ts';
import { desk } from '../picture/desk.ts';
import type { Values } from '../picture/desk-messages.ts';
import { getJson } from '../remote/client.ts';

const REST_MS = 60;
/** Nobody waits longer for a value that is on its way. */
const PATIENCE_MS = 500;

/** What a pixel is read from: a render of ours on the server, where all its passes are; a file here, where it is decoded. */
export interface Probed {
  key: string;
  label: string;
  render: RenderSummary | null;
}

export const useProbe = defineStore('probe', () => {
  const at = ref<{ x: number; y: number; key: string } | null>(null);
  /** Stays when the pointer leaves, so that it can be read. */
  const values = shallowRef<(Values & { source: Probed }) | null>(null);
  /** Pixels on either side that are taken with it. */
  const radius = ref(0);
  const isHeld = ref(false);
  let timer: ReturnType<typeof setTimeout> | null = null;
  let reading: Promise<void> = Promise.resolve();
  /** What is read last is shown, whatever comes in later. */
  let asked = 0;

  function look(source: Probed, x: number, y: number): void {
    if (isHeld.value || (at.value?.x === x && at.value.y === y && at.value.key === source.key)) return;
    at.value = { x, y, key: source.key };
    if (timer) clearTimeout(timer);
    reading = new Promise((done) => (timer = setTimeout(() => void read(source, x, y).finally(done), REST_MS)));
  }

  async function read(source: Probed, x: number, y: number): Promise<void> {
    const own = ++asked;
    const found = await (source.render
      ? ofRender(source.render.id, x, y, radius.value)
      : desk.ask('values', { key: source.key, x, y, radius: radius.value }).catch(() => null));
    if (own === asked) values.value = found && found.channels.length ? { ...found, source } : null;
  }

  /** The pixel that stands there is read anew, held or not: of another area, or of a picture that has got on. */
  function again(source: Probed): void {
    const now = values.value;
    if (now?.source.key !== source.key) return;
    void read(source, now.x, now.y);
  }
  watch(radius, () => values.value && again(values.value.source));

  /** Resolves when the value of the pixel that was looked at last is here, or takes too long. */
  const settled = (): Promise<void> => Promise.race([reading, new Promise<void>((late) => setTimeout(late, PATIENCE_MS))]); // prettier-ignore

  function leave(): void {
    if (timer) clearTimeout(timer);
    if (isHeld.value) return;
    at.value = null;
    asked += 1;
  }

  /** The values by channel; null where nothing is read. */
  const byChannel = computed<Record<string, number> | null>(
    () => values.value && Object.fromEntries(values.value.channels.map(({ name, mean }) => [name, mean])),
  );

  return { at, values, byChannel, radius, isHeld, look, leave, settled, again };
});

async function ofRender(id: number, x: number, y: number, radius: number): Promise<Values | null> {
  const path = `/renders/${id}/area?x=${x}&y=${y}&radius=${radius}`;
  const channels = await getJson<Values['channels']>(path).catch(() => null);
  return channels && { x, y, channels, named: [] };
}
