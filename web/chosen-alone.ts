/** Objects chosen in the scene, for which alone values may be tried: a second render of them, put together with the rest. */
import { computed, ref } from 'vue';
import { useShot } from './stores/shot.ts';
import { useView } from './stores/view.ts';

export function useChosenAlone() {
  const shot = useShot();
  const view = useView();
  const isWanted = ref(false);
  const chosen = computed(() =>
    view.items.flatMap((item) => {
      const [, part, id] = item.split('/');
      return part === 'objects' && shot.state!.document.objects[id]?.role === 'surface' ? [id] : [];
    }),
  );
  /** What they are called together; empty: none is chosen. */
  const name = computed(() => {
    const [first] = chosen.value;
    if (chosen.value.length > 1) return `${chosen.value.length} objects`;
    return first === undefined ? '' : shot.state!.document.objects[first].name || first;
  });
  /** Their ids where it is to be for them alone. */
  const objects = computed(() => (isWanted.value && chosen.value.length ? chosen.value : null));
  return { isWanted, name, objects };
}
