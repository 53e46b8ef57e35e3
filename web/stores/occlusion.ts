/** Ambient occlusion of the current sheet at every distance. */
import { defineStore } from 'pinia';
import { ref } from 'vue';
import { useAsked } from './asked.ts';

export const useOcclusion = defineStore('occlusion', () => {
  /** Nothing is asked while the panel is closed. */
  const isOpen = ref(false);
  return { isOpen, ...useAsked(() => (isOpen.value ? { occlusion: true as const } : null)) };
});
