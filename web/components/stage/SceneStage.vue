<script setup lang="ts">
/** The scene from outside, beside the picture: orbited, picked in, and what is chosen moved and turned by handles. */
import { useResizeObserver } from '@vueuse/core';
import Button from 'primevue/button';
import SelectButton from 'primevue/selectbutton';
import Select from 'primevue/select';
import ToggleButton from 'primevue/togglebutton';
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import { placementOf, withPart } from '../../../core/data/placement.ts';
import type { Transform } from '../../../core/data/transform.ts';
import { withValues } from '../../../core/document/set-values.ts';
import { MAP_SLOTS } from '../../../core/document/check-references.ts';
import { valueAt } from '../../../core/document/patch.ts';
import { getJson } from '../../remote/client.ts';
import type { StageAnswer, StageMeshes, StageRequest } from '../../stage/load.worker.ts';
import type { HandleMode, SceneView, StageWay } from '../../stage/scene-view.ts';
import type { SurfaceLook } from '../../stage/surface-looks.ts';
import { usePending } from '../../stores/pending.ts';
import { usePlace } from '../../stores/place.ts';
import { useShot } from '../../stores/shot.ts';
import { useCurrent } from '../../stores/current.ts';
import { useView } from '../../stores/view.ts';

const shot = useShot();
const view = useView();
const current = useCurrent();
const pending = usePending();
const place = usePlace();
const canvas = ref<HTMLCanvasElement | null>(null);
const stage = shallowRef<SceneView | null>(null);
const problem = ref('');
const isLoading = ref(true);
/** What stands before what is looked at is cut away, so that rooms are seen into. */
const isCut = ref(true);
const mode = ref<HandleMode>('translate');
const MODES = [{ id: 'translate', name: 'Move' }, { id: 'rotate', name: 'Rotate' }]; // prettier-ignore

interface SurfaceChoice {
  /** The look, or `map ` and the id of the map. */
  id: string;
  name: string;
}
const LOOKS: SurfaceChoice[] = [{ id: 'shaded', name: 'Shaded' }, { id: 'wire', name: 'Wire' }, { id: 'normals', name: 'Normals' }, { id: 'uvs', name: 'UV colours' }]; // prettier-ignore
const surface = ref('shaded');
const look = computed(() => (surface.value.startsWith('map ') ? 'map' : surface.value) as SurfaceLook);
const map = computed(() => (surface.value.startsWith('map ') ? surface.value.slice(4) : null));
const hasSeams = ref(false);
/** Meshes before they are subdivided and displaced. */
const isBase = ref(false);

/** As it would be with what is set; as stored where that makes no document. */
const document = computed(() => {
  const stored = shot.state!.document;
  try {
    return withValues(stored, ['preview'], pending.scene);
  } catch {
    return stored;
  }
});
/** What shapes hang on: files, levels of subdivision (by the camera, where edges are to be so long), displacement. */
const shapesOf = computed(() => {
  const { meshes, objects, materials, maps, textures, sheets, cameras, camera } = document.value;
  const moving = Object.entries(materials).flatMap(([id, { displacementMap: map, displacementKind: kind, displacementScale: by, displacementRest: rest, displacementBound: bound }]) => (map === null ? [] : [[id, maps[map], kind, by, rest, bound, textures]])); // prettier-ignore
  const eye = Object.values(objects).some(({ subdivision }) => subdivision.edgePixels !== null)
    ? cameras[camera]
    : null;
  const own = Object.entries(objects).map(([id, { mesh, subdivision, material }]) => [id, mesh, subdivision, moving.length > 0 && material]); // prettier-ignore
  const { mostSubdivision, height } = sheets.preview;
  return JSON.stringify([meshes, own, moving, mostSubdivision, eye && [eye, height]]);
});
/** What surfaces can be shown as: the ways that all have, and every map that a material wears by UVs. */
const surfaces = computed(() => {
  const { maps, materials } = document.value;
  const worn = new Set(Object.values(materials).flatMap((material) => MAP_SLOTS.map((slot) => material[slot])));
  const own = Object.entries(maps).filter(
    ([id, { kind }]) => worn.has(id) && kind !== 'noise-object' && kind !== 'waves',
  );
  return [
    { name: 'Surface', items: LOOKS },
    ...(own.length ? [{ name: 'Maps, unlit', items: own.map(([id, one]) => ({ id: `map ${id}`, name: ('name' in one && one.name) || id })) }] : []), // prettier-ignore
  ];
});
const chosen = computed(() => {
  if (view.items.length > 1) return `${view.items.length} chosen`;
  const [, part, id] = (view.item ?? '').split('/');
  return ['objects', 'lights', 'cameras'].includes(part) ? document.value[part as 'lights'][id]?.name || id : null;
});

/** What was not moved keeps its bits: the position alone where it was moved, the rotation where it was turned. */
function moved(things: { pointer: string; transform: Transform }[], by: HandleMode): void {
  for (const { pointer, transform } of things) {
    const at = `${pointer}/transform`;
    const stored = valueAt(shot.state!.document, at) as Transform;
    const now = (pending.scene[at] ?? stored) as Transform;
    const part = by === 'translate' ? 'position' : 'rotation';
    // Of several what was not moved has its bits already, and those that are turned go round their middle.
    const next = things.length > 1 ? transform : withPart(stored, now, part, placementOf(transform)[part]);
    pending.put(shot.state!.document, at, next);
  }
}

/** With Ctrl or Shift it goes along with what is chosen, or is left out again. */
function picked(pointer: string | null, isAlong: boolean): void {
  if (!isAlong) return pointer ? view.showDial(pointer) : view.choose([]);
  if (!pointer) return;
  view.panel = 'scene';
  view.choose(view.items.includes(pointer) ? view.items.filter((one) => one !== pointer) : [...view.items, pointer]);
}

/** The way to the light that is pointed at in the panel. */
const way = computed<StageWay | null>(() => {
  const { told, shown } = place;
  if (view.panel !== 'light' || !told || !shown?.direction) return null;
  const end = shown.metres ?? Math.max(told.metres, ...shown.blockers.map(({ metres }) => 1.2 * metres));
  const to = told.point.map((c, a) => c + shown.direction![a] * end) as StageWay['to'];
  return { from: told.point, to, met: shown.blockers.slice(0, 6), isMissing: shown.state === 'missing' };
});
watch(way, (now) => stage.value?.showWay(now));

/** The middle of the region that is looked at, whether it was chosen in the picture, in a list or on UV tiles; from the left and the top. */
const middle = computed<[number, number] | null>(() => {
  const { width, height } = document.value.sheets.preview;
  const { region } = current;
  return region && [(region.x + region.width / 2) / width, (region.y + region.height / 2) / height];
});
watch(middle, (now) => stage.value?.showPlace(now));

let worker: Worker | null = null;
let loaded: number | null = null;
async function load(): Promise<void> {
  const { id } = shot.state!.head;
  const manifest = await getJson<Record<string, string>>(`/versions/${id}/manifest`);
  worker?.terminate();
  worker = new Worker(new URL('../../stage/load.worker.ts', import.meta.url), { type: 'module' });
  const shapes = await new Promise<StageMeshes>((resolve, reject) => {
    worker!.onmessage = ({ data }: MessageEvent<StageAnswer>) => ('problem' in data ? reject(new Error(data.problem)) : resolve(data)); // prettier-ignore
    worker!.postMessage({
      document: document.value,
      sheet: 'preview',
      manifest,
      isBase: isBase.value,
      map: map.value,
    } satisfies StageRequest);
  });
  loaded = id;
  isLoading.value = false;
  problem.value = '';
  stage.value?.show(document.value, shapes);
}

onMounted(async () => {
  try {
    const { SceneView } = await import('../../stage/scene-view.ts');
    if (!canvas.value) return;
    stage.value = new SceneView(canvas.value, { picked, moved }); // prettier-ignore
    fit();
    await load();
    stage.value.select(view.items);
    stage.value.showWay(way.value);
    stage.value.showPlace(middle.value);
  } catch (error) {
    problem.value = `The stage cannot be shown: ${(error as Error).message}.`;
    isLoading.value = false;
  }
});
onBeforeUnmount(() => {
  worker?.terminate();
  stage.value?.dispose();
});

function fit(): void {
  const box = canvas.value?.parentElement?.getBoundingClientRect();
  if (box) stage.value?.resize(box.width, box.height);
}
useResizeObserver(
  computed(() => canvas.value?.parentElement ?? null),
  fit,
);
watch(document, (now) => !isLoading.value && stage.value?.show(now, null), { deep: false });
watch([shapesOf, isBase, map], () => loaded !== null && load().catch((error: Error) => (problem.value = error.message))); // prettier-ignore
watch([look, map], ([now, shown]) => stage.value?.setLook(now, shown));
watch(hasSeams, (now) => stage.value?.setSeams(now));
watch(() => view.items, (items) => stage.value?.select(items)); // prettier-ignore
watch(isCut, (now) => stage.value?.setCut(now));
watch(mode, (now) => stage.value?.setMode(now));
</script>

<template>
  <section class="scene-stage" aria-label="Stage" :aria-busy="isLoading">
    <div class="tools">
      <SelectButton
        v-model="mode"
        :options="MODES"
        option-label="name"
        option-value="id"
        :allow-empty="false"
        size="small"
        aria-label="Handles"
      />
      <Button
        severity="secondary"
        variant="text"
        size="small"
        title="From behind the shot’s camera"
        @click="stage?.behindCamera()"
        >Camera</Button
      >
      <ToggleButton
        v-model="isCut"
        on-label="Cut away"
        off-label="Cut away"
        size="small"
        title="Leaves out what stands before the middle, so that rooms are seen into"
      />
      <Select
        v-model="surface"
        :options="surfaces"
        option-group-label="name"
        option-group-children="items"
        option-label="name"
        option-value="id"
        scroll-height="20rem"
        size="small"
        aria-label="Surfaces as"
      />
      <ToggleButton
        v-model="hasSeams"
        on-label="Seams"
        off-label="Seams"
        size="small"
        title="Edges where both sides have vertices of their own; those that have opened are red, with rungs across"
      />
      <ToggleButton
        v-model="isBase"
        on-label="Base mesh"
        off-label="Base mesh"
        size="small"
        title="Before subdivision and displacement"
      />
      <span class="dim chosen">{{ chosen ?? 'Click something to choose it, Ctrl-click for several' }}</span>
    </div>
    <div class="room">
      <canvas
        ref="canvas"
        tabindex="0"
        aria-label="The scene from outside: drag to orbit, right-drag to pan, scroll to zoom, click to choose"
      ></canvas>
      <p v-if="problem" class="note bad" role="alert">{{ problem }}</p>
      <p v-else-if="isLoading" class="note" role="status">Reading meshes …</p>
    </div>
  </section>
</template>

<style scoped>
.scene-stage {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-width: 0;
  border-top: 1px solid var(--line);
  background: var(--stage);
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  align-items: center;
  padding: 4px 8px;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
  font-size: var(--small);
}
.chosen {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.room {
  position: relative;
  min-height: 0;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.note {
  position: absolute;
  left: 50%;
  bottom: 14px;
  transform: translateX(-50%);
  background: rgb(0 0 0 / 70%);
  padding: 4px 10px;
  border-radius: 3px;
}
.bad {
  color: var(--stop);
}
</style>
