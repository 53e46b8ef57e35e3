/** Values that a person set and neither tried nor kept yet: they stay when another panel is opened. */
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import type { DialValue } from '../../core/document/dials.ts';
import type { SheetName } from '../../core/document/schema.ts';
import type { ControlValues } from '../../core/document/set-values.ts';

export const usePending = defineStore('pending', () => {
  /** Of dials, by sheet and pointer. */
  const sheets = ref<Record<SheetName, Record<string, DialValue>>>({ preview: {}, final: {} });
  /** Of the scene, by pointer. */
  const scene = ref<ControlValues>({});

  /** What the preview would be rendered with. */
  const ofPreview = computed<ControlValues>(() => ({ ...scene.value, ...sheets.value.preview }));

  function reset(): void {
    sheets.value = { preview: {}, final: {} };
    scene.value = {};
  }
  return { sheets, scene, ofPreview, reset };
});
