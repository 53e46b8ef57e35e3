/** What the server wants every page to know while it lasts; shown above everything by `App.vue`. */
import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { Notice } from '../../core/contracts/events.ts';

export const useNotices = defineStore('notices', () => {
  const list = shallowRef<Notice[]>([]);
  return { list, tell: (now: Notice[]) => (list.value = now) };
});
