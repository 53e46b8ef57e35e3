/** What the page has to say to a person in passing; shown by the toast in `App.vue`. */
import { defineStore } from 'pinia';
import { ref } from 'vue';
import { Refused } from '../remote/client.ts';

export interface Message {
  id: number;
  severity: 'error' | 'success';
  text: string;
  details: string[];
}

export const useMessages = defineStore('messages', () => {
  const latest = ref<Message | null>(null);
  let next = 1;
  const say = (severity: Message['severity'], text: string, details: string[] = []) =>
    (latest.value = { id: next++, severity, text, details });

  /** Tells why the server did not do something. */
  function refused(error: unknown): void {
    if (error instanceof Refused) {
      const { problems } = error.body;
      const details = problems.map((p) => `${p.path || '/'} is ${p.value}; expected ${p.expected}`);
      say('error', problems.length ? 'That cannot be done; nothing was changed.' : error.message, details);
    } else say('error', `The page failed: ${(error as Error).message}. Reload it.`);
  }

  return {
    latest,
    refused,
    done: (text: string) => say('success', text),
    failed: (text: string) => say('error', text),
  };
});
