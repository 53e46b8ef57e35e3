/** The place or region that is asked about: what lights it, in the version that is current, with the values that are set. */
import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import type { ToldLight } from '../../core/contracts/place.ts';
import type { Question } from '../place/ask-messages.ts';
import { useAsked } from './asked.ts';
import { useCurrent } from './current.ts';
import { useShot } from './shot.ts';
import { useView } from './view.ts';

export const usePlace = defineStore('place', () => {
  const shot = useShot();
  const view = useView();
  const current = useCurrent();

  /** Light that is pointed at, by its id; its way is drawn stronger. */
  const light = ref<string | null>(null);

  /** Pixels of the sheet's frame to one of the picture: an older render may have another size. */
  const scale = computed(() => {
    const { render, sheet } = current;
    return render && sheet ? { x: sheet.width / render.width, y: sheet.height / render.height } : { x: 1, y: 1 };
  });
  const { asked, problem, isAsking } = useAsked(question);
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
  function question(): Extract<Question, { pixel: unknown } | { region: unknown }> | null {
    const { x, y } = scale.value;
    const { place, region, asksRegion } = view;
    if (asksRegion)
      return region && { region: { x: Math.floor(region.x * x), y: Math.floor(region.y * y), width: Math.ceil(region.width * x), height: Math.ceil(region.height * y) } }; // prettier-ignore
    return place && { pixel: [Math.floor(place[0] * x), Math.floor(place[1] * y)] };
  }

  watch(
    () => shot.state?.code,
    () => (light.value = null),
    { flush: 'sync' },
  );

  return { asked, told, mark, scale, ways, shown, light, problem, isAsking };
});
