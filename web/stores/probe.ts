/** The pixel under the pointer: all its measured values, read from the server shortly after it rests there. */
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import type { RenderSummary } from '../../core/contracts/events.ts';
import { getJson } from '../remote/client.ts';

const REST_MS = 60;

export const useProbe = defineStore('probe', () => {
  const at = ref<{ x: number; y: number; renderId: number } | null>(null);
  const values = shallowRef<Record<string, number> | null>(null);
  let timer: ReturnType<typeof setTimeout> | null = null;

  function look(render: RenderSummary | null, x: number, y: number): void {
    if (!render) return leave();
    if (at.value && at.value.x === x && at.value.y === y && at.value.renderId === render.id) return;
    const place = { x, y, renderId: render.id };
    at.value = place;
    if (timer) clearTimeout(timer);
    timer = setTimeout(async () => {
      try {
        const read = await getJson<Record<string, number>>(`/renders/${render.id}/pixel?x=${x}&y=${y}`);
        if (at.value === place || (at.value?.x === x && at.value.y === y)) values.value = read;
      } catch {
        values.value = null;
      }
    }, REST_MS);
  }

  function leave(): void {
    if (timer) clearTimeout(timer);
    at.value = null;
    values.value = null;
  }

  return { at, values, look, leave };
});
