/** A state the server keeps sending: the newest one, and whether the line is up. */
import { useThrottleFn } from '@vueuse/core';
import { onScopeDispose, ref, shallowRef, type Ref, type ShallowRef } from 'vue';
import type { Notice } from '../../core/contracts/events.ts';
import { useNotices } from './notices.ts';
import { getJson, type Refused } from './client.ts';

export interface Live<T> {
  state: ShallowRef<T | null>;
  /** False while the connection is lost; it is made again by itself. */
  connected: Ref<boolean>;
  close(): void;
}

/** Between two states that are shown, milliseconds. The newest one always is. */
const EVERY_MS = 250;
/** Before each further try to connect, milliseconds; the last one from then on. */
const PAUSES = [500, 1000, 2000, 4000];

/**
 * Follows an event stream until the calling scope ends. A browser connects again by itself after a broken line, but not
 * after an answer that is no stream, which is what a server says whose database is away.
 * @param plain the same state as a plain request, which can say why there is no stream
 * @param missing what is followed is not there, or not any more
 */
export function follow<T>(path: string, plain: string, missing: (why: string) => void = () => {}): Live<T> {
  const state = shallowRef<T | null>(null);
  const connected = ref(true);
  const notices = useNotices();
  let source: EventSource | null = null;
  let timer: ReturnType<typeof setTimeout> | null = null;
  let failures = 0;
  // A render tells of every tile: nobody reads so fast, and a slow machine would do nothing else than draw it.
  const take = useThrottleFn((text: string) => (state.value = JSON.parse(text) as T), EVERY_MS, true);
  const connect = () => {
    const next = new EventSource(`/api${path}`);
    source = next;
    next.addEventListener('state', (event) => {
      void take((event as MessageEvent<string>).data);
      connected.value = true;
      failures = 0;
    });
    next.addEventListener('notices', (event) => notices.tell(JSON.parse((event as MessageEvent<string>).data) as Notice[])); // prettier-ignore
    next.addEventListener('gone', (event) => {
      close();
      missing(JSON.parse((event as MessageEvent<string>).data) as string);
    });
    next.onopen = () => (connected.value = true);
    next.onerror = () => {
      connected.value = false;
      if (next.readyState !== EventSource.CLOSED) return;
      timer = setTimeout(connect, PAUSES[Math.min(failures++, PAUSES.length - 1)]);
      // Whoever is not signed in any more is led to the page for it by this.
      void getJson(plain).catch((error: Refused) => {
        if (error.status !== 404) return;
        close();
        missing(error.message);
      });
    };
  };
  connect();
  const close = () => {
    if (timer !== null) clearTimeout(timer);
    source?.close();
  };
  onScopeDispose(close);
  return { state, connected, close };
}
