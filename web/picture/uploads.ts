/**
 * Pictures on their way to the server, one request each. What waits is kept in the browser's own store, so that a reload
 * goes on where it was; what was refused stays listed until somebody has read why.
 */
import { createStore, del, entries, set } from 'idb-keyval';
import { defineStore } from 'pinia';
import { computed, ref, shallowReactive } from 'vue';
import { isPictureName } from '../../core/formats/picture-names.ts';
import { sendText, type Refused, type Sending, type UploadFile } from '../remote/client.ts';

export interface Upload {
  key: string;
  /** Null: the picture starts a shot. */
  code: string | null;
  file: File;
  state: 'waiting' | 'sending' | 'refused';
  sent: number;
  error: string;
}

export interface Arrived {
  code: string;
  set: number;
  picture: number;
}

const kept = () => createStore('dusting-uploads', 'files');

export const useUploads = defineStore('uploads', () => {
  const list = shallowReactive<Upload[]>([]);
  const total = ref(0);
  let store: ReturnType<typeof kept> | null = null;
  let sending: Sending<Arrived> | null = null;
  let heard: ((arrived: Arrived) => void) | null = null;
  const waiting = computed(() => list.filter(({ state }) => state !== 'refused'));
  const refused = computed(() => list.filter(({ state }) => state === 'refused'));

  /** Reads what an earlier page left behind, and goes on with it. */
  async function goOn(): Promise<void> {
    if (store) return;
    store = kept();
    // A browser that keeps nothing still sends.
    const left = await entries<string, { code: string | null; file: File }>(store).catch(() => []);
    for (const [key, { code, file }] of left) list.push({ key, code, file, state: 'waiting', sent: 0, error: '' });
    total.value += left.length;
    void next();
  }

  /** @returns how many of the files are pictures; the others are left alone */
  async function add(code: string | null, files: UploadFile[]): Promise<number> {
    await goOn();
    const pictures = files.filter(({ file }) => isPictureName(file.name));
    if (list.every(({ state }) => state === 'refused')) total.value = 0;
    total.value += pictures.length;
    for (const { file } of pictures.sort((a, b) => (a.file.name < b.file.name ? -1 : 1))) {
      const key = `${code ?? ''}/${file.name}/${file.size}/${file.lastModified}`;
      if (list.some((one) => one.key === key && one.state !== 'refused')) continue;
      list.push({ key, code, file, state: 'waiting', sent: 0, error: '' });
      await set(key, { code, file }, store!).catch(() => {});
    }
    void next();
    return pictures.length;
  }

  async function next(): Promise<void> {
    const at = list.findIndex(({ state }) => state === 'waiting');
    if (sending || at < 0) return;
    const upload = list[at];
    change(upload, { state: 'sending' });
    const path = upload.code === null ? '/pictures' : `/shots/${upload.code}/pictures`;
    sending = sendText<Arrived>(path, upload.file, (sent) => change(upload, { sent }));
    try {
      const arrived = await sending.done;
      drop(upload.key);
      heard?.(arrived);
    } catch (error) {
      const { message, status } = error as Refused;
      // Cancelled ones are gone; what the server could not be asked is sent again later.
      const isWanted = list.some(({ key }) => key === upload.key);
      if (isWanted) change(upload, status === 0 ? { state: 'waiting', sent: 0 } : { state: 'refused', error: message }); // prettier-ignore
      if (isWanted && status === 0) await new Promise((resolve) => setTimeout(resolve, 3000));
      else void del(upload.key, store!).catch(() => {});
    } finally {
      sending = null;
    }
    void next();
  }

  function change(upload: Upload, values: Partial<Upload>): void {
    const at = list.findIndex(({ key }) => key === upload.key);
    if (at >= 0) list.splice(at, 1, { ...list[at], ...values });
  }

  function drop(key: string): void {
    const at = list.findIndex((one) => one.key === key);
    if (at >= 0) list.splice(at, 1);
    void del(key, store!).catch(() => {});
  }

  /** Stops what is on its way and forgets what waits. */
  function cancel(): void {
    for (const { key } of [...waiting.value]) drop(key);
    sending?.cancel();
  }

  return {
    list, total, waiting, refused, goOn, add, cancel, dismiss: drop,
    /** One page at a time listens; null: none. */
    onArrived: (listener: ((arrived: Arrived) => void) | null) => (heard = listener),
  };
}); // prettier-ignore
