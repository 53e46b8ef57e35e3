import type { Directive } from 'vue';

/**
 * The stored value of a field that is typed into. What is typed stays there while the page is drawn anew for other
 * reasons, until it is sent or the stored value itself changes.
 *
 * @example <input v-stored="samples ?? ''" @change="…" />
 */
export const vStored: Directive<HTMLInputElement | HTMLTextAreaElement, string | number> = {
  mounted: (field, { value }) => {
    field.value = String(value);
  },
  updated: (field, { value, oldValue }) => {
    if (value !== oldValue) field.value = String(value);
  },
};
