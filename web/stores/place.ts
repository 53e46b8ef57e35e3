/** The place or region that is asked about: what lights it, in the version that is current, with the values that are set. */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { ToldLight } from '../../core/contracts/place.ts';
import type { AskAnswer, Asked, AskRequest } from '../place/ask-messages.ts';
import { getJson } from '../remote/client.ts';
import { useCurrent } from './current.ts';
import { usePending } from './pending.ts';
import { useShot } from './shot.ts';
import { useView } from './view.ts';

export const usePlace = defineStore('place', () => {
  const shot = useShot();
  const view = useView();
  const current = useCurrent();
  const pending = usePending();

  const asked = shallowRef<Asked | null>(null);
  const problem = ref('');
  const isAsking = ref(false);
  /** Light that is pointed at, by its id; its way is drawn stronger. */
  const light = ref<string | null>(null);
  let worker: Worker | null = null;
  let sent: number | null = null;
  let turn = 0;

  /** Pixels of the sheet's frame to one of the picture: an older render may have another size. */
  const scale = computed(() => {
    const { render, sheet } = current;
    return render && sheet ? { x: sheet.width / render.width, y: sheet.height / render.height } : { x: 1, y: 1 };
  });
  const told = computed(() => asked.value?.told ?? null);
  const ways = computed(() => asked.value?.ways ?? []);
  /** The light whose way is shown: that which is pointed at, or the first that something is to be said about. */
  const shown = computed<ToldLight | null>(() => {
    const lights = told.value?.lights ?? [];
    return lights.find(({ id }) => id === light.value) ?? lights.find(({ angle }) => angle !== null) ?? null;
  });

  /** Where it is marked, pixels of the picture. */
  const mark = computed<[number, number] | null>(() => {
    if (!view.asksRegion) return view.place;
    const pixel = told.value?.pixel;
    return pixel ? [Math.floor(pixel[0] / scale.value.x), Math.floor(pixel[1] / scale.value.y)] : null;
  });
  /** What is asked, pixels of the sheet's frame; null: nothing. */
  function asking(): AskRequest['at'] | null {
    const { x, y } = scale.value;
    const { place, region, asksRegion } = view;
    if (asksRegion)
      return region && { region: { x: Math.floor(region.x * x), y: Math.floor(region.y * y), width: Math.ceil(region.width * x), height: Math.ceil(region.height * y) } }; // prettier-ignore
    return place && { pixel: [Math.floor(place[0] * x), Math.floor(place[1] * y)] };
  }

  function answered({ data }: MessageEvent<AskAnswer>): void {
    if (data.turn !== turn) return;
    isAsking.value = false;
    problem.value = 'problem' in data ? data.problem : '';
    asked.value = 'problem' in data ? null : data;
  }

  async function ask(): Promise<void> {
    const at = asking();
    const { state } = shot;
    const mine = ++turn;
    if (!at || !state) {
      asked.value = null;
      isAsking.value = false;
      return;
    }
    isAsking.value = true;
    problem.value = '';
    try {
      const { id } = state.head;
      const manifest = sent === id ? null : await getJson<Record<string, string>>(`/versions/${id}/manifest`);
      if (mine !== turn) return;
      worker ??= new Worker(new URL('../place/ask.worker.ts', import.meta.url), { type: 'module' });
      worker.onmessage = answered;
      worker.onerror = ({ message }) => answered({ data: { turn, problem: message || 'The worker stopped.' } } as MessageEvent); // prettier-ignore
      const sheet = current.sheetName;
      const values = JSON.parse(JSON.stringify({ ...pending.scene, ...pending.sheets[sheet] })) as AskRequest['values'];
      // What is reactive cannot be sent.
      const version = manifest && { document: JSON.parse(JSON.stringify(state.document)) as typeof state.document, manifest }; // prettier-ignore
      worker.postMessage({
        turn: mine,
        version,
        sheet,
        values,
        at,
      } satisfies AskRequest);
      sent = id;
    } catch (error) {
      if (mine !== turn) return;
      isAsking.value = false;
      problem.value = (error as Error).message;
    }
  }

  watch(
    () => JSON.stringify([asking(), shot.state?.code, shot.state?.head.id, current.sheetName, pending.scene, pending.sheets]),
    () => void ask(),
    { immediate: true },
  ); // prettier-ignore
  watch(
    () => shot.state?.code,
    () => {
      worker?.terminate();
      [worker, sent, asked.value, light.value] = [null, null, null, null];
    },
    { flush: 'sync' },
  );

  return { asked, told, mark, scale, ways, shown, light, problem, isAsking };
});
