/** A state the server keeps sending: the newest one, and whether the line is up. */
import { onScopeDispose, ref, shallowRef, type Ref, type ShallowRef } from 'vue';

export interface Live<T> {
  state: ShallowRef<T | null>;
  /** False while the connection is lost; the browser connects again by itself. */
  connected: Ref<boolean>;
  close(): void;
}

/** Follows an event stream until the calling scope ends. */
export function follow<T>(path: string): Live<T> {
  const state = shallowRef<T | null>(null);
  const connected = ref(true);
  const source = new EventSource(`/api${path}`);
  source.addEventListener('state', (event) => {
    state.value = JSON.parse((event as MessageEvent<string>).data) as T;
    connected.value = true;
  });
  source.onopen = () => (connected.value = true);
  source.onerror = () => (connected.value = false);
  const close = () => source.close();
  onScopeDispose(close);
  return { state, connected, close };
}
