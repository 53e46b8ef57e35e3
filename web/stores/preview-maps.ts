/** A light's shadows as the depth maps of a real-time preview show them, asked again as their settings are turned. */
import { defineStore } from 'pinia';
import { ref, watch } from 'vue';
import { useAsked } from './asked.ts';
import { useShot } from './shot.ts';

export const usePreviewMaps = defineStore('preview-maps', () => {
  const shot = useShot();
  /** Nothing is asked while the panel is closed. */
  const isOpen = ref(false);
  /** Id of the light; null: that which brings most. */
  const light = ref<string | null>(null);
  watch(
    () => shot.state?.code,
    () => (light.value = null),
    { flush: 'sync' },
  );
  return { isOpen, light, ...useAsked(() => (isOpen.value ? { mapsOf: light.value } : null)) };
});
