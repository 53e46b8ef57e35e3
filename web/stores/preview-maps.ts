/** A light's shadows as the depth maps of a real-time preview show them, asked again as their settings are turned. */
import { defineStore } from 'pinia';
import { ref, shallowRef, watch } from 'vue';
import type { AskedMaps } from '../place/ask-messages.ts';
import { useAsker } from './asker.ts';
import { useShot } from './shot.ts';

export const usePreviewMaps = defineStore('preview-maps', () => {
  const shot = useShot();
  const asker = useAsker();
  /** Nothing is asked while the panel is closed. */
  const isOpen = ref(false);
  /** Id of the light; null: that which brings most. */
  const light = ref<string | null>(null);
  const asked = shallowRef<AskedMaps | null>(null);
  const problem = ref('');
  const isAsking = ref(false);

  let turn = 0;
  async function ask(): Promise<void> {
    const mine = ++turn;
    isAsking.value = isOpen.value && shot.state !== null;
    problem.value = '';
    if (!isAsking.value) return;
    try {
      const answer = await asker.ask({ mapsOf: light.value });
      if (mine !== turn || !answer) return;
      asked.value = answer;
    } catch (error) {
      if (mine !== turn) return;
      asked.value = null;
      problem.value = (error as Error).message;
    }
    isAsking.value = false;
  }

  watch(() => JSON.stringify([isOpen.value, light.value, asker.state()]), () => void ask()); // prettier-ignore
  watch(
    () => shot.state?.code,
    () => ([asked.value, light.value] = [null, null]),
    { flush: 'sync' },
  );

  return { isOpen, light, asked, problem, isAsking };
});
