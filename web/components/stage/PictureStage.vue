<script setup lang="ts">
/** The picture and what lies on it: mask, region, a trial's wipe, the probe. */
import ContextMenu from 'primevue/contextmenu';
import Button from 'primevue/button';
import { computed, ref, watch, useTemplateRef } from 'vue';
import { watchThrottled } from '@vueuse/core';
import type { RenderSummary } from '../../../core/contracts/events.ts';
import { clipRegion, type Region } from '../../../core/data/picture.ts';
import type { MenuItem } from 'primevue/menuitem';
import { aimMenu, seenIn } from '../../picture/aim-menu.ts';
import { pictureMenu } from '../../picture/picture-menu.ts';
import { renderKey } from '../../picture/render-source.ts';
import { composed } from '../../picture/snapshot.ts';
import { useCurrent } from '../../stores/current.ts';
import { useLive } from '../../stores/live.ts';
import { usePlace } from '../../stores/place.ts';
import { useProbe, type Probed } from '../../stores/probe.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import { dragged, type Place, type Point } from '../../viewer/frame-place.ts';
import { regionAround, regionByKey } from '../../viewer/region.ts';
import { between, placed, useViewport, wheelFactor } from '../../viewer/viewport.ts';
import LiveCanvas from './LiveCanvas.vue';
import MaskOverlay from './MaskOverlay.vue';
import PlaceMark from '../place/PlaceMark.vue';
import PictureCanvas from './PictureCanvas.vue';
import SweepSheet from '../trials/SweepSheet.vue';
import StageTabs from './StageTabs.vue';
import ViewBar from './ViewBar.vue';

const emit = defineEmits<{ drawn: [] }>();
const shot = useShot();
const view = useView();
const current = useCurrent();
const probe = useProbe();
const asked = usePlace();
const live = useLive();

const isDrawing = ref(false);
const failure = ref('');
function drawn(): void {
  failure.value = '';
  emit('drawn');
}
const element = ref<HTMLElement | null>(null);
const place = ref<Place | null>(null);

const frame = computed(() => ({ width: current.render?.width ?? 16, height: current.render?.height ?? 9 }));
const top = computed(() => current.figures?.tops[view.pass] ?? 1);
const sides = computed(() => {
  const trial = current.trial;
  if (!trial) return null;
  const [before, after] = [shot.renderOf(trial.beforeRenderId), shot.renderOf(trial.afterRenderId)];
  return before && after ? { before, after, region: trial.region } : null;
});
/** Of the object whose controls are open, or of the finding; none where a place is asked about. */
const mask = computed(() => {
  const { render, finding } = current;
  const objects = view.panel === 'scene' ? view.items.flatMap((item) => /^\/objects\/([^/]+)/.exec(item)?.[1] ?? []) : []; // prettier-ignore
  const isWhole = render && render.region.width === render.width && render.region.height === render.height;
  if (objects.length && isWhole)
    return `/renders/${render.id}/mask?object=${encodeURIComponent(objects.join())}&at=${render.revision}`;
  return finding && finding.renderId === render?.id && view.panel !== 'light' ? `/findings/${finding.id}/mask` : null;
});

/** A finding's own region has no part in a place that is asked about. */
const shownRegion = computed(() => (view.panel === 'light' ? view.region : current.region));

const viewport = useViewport(element, frame, place);
watch(frame, (now, was) => (now.width !== was.width || now.height !== was.height) && viewport.fit());
const scale = computed(() => viewport.placeIn(viewport.whole.value).scale);
const actual = () => viewport.zoom(1 / scale.value);

/** What is read under the pointer follows a picture that gets on. */
watchThrottled(
  () => current.render?.revision,
  () => current.render && probe.again(probed(current.render)),
  { throttle: 500 },
);

/** Pictures keep their own pixels, and are enlarged by the screen. */
const frameStyle = computed(() => {
  const { x, y } = viewport.screen({ x: 0, y: 0, ...frame.value });
  const { width, height } = frame.value;
  return { width: `${width}px`, height: `${height}px`, transform: `translate(${x}px, ${y}px) scale(${scale.value})` };
});
const onScreen = (r: Region) => placed(viewport.screen(r));

function wheel(event: WheelEvent): void {
  viewport.zoom(wheelFactor(event), undefined, viewport.frameAt(event));
}

type Drag =
  | { kind: 'pan'; x: number; y: number; from: Place }
  | { kind: 'region'; from: Point }
  | { kind: 'wipe'; region: Region };
let drag: Drag | null = null;
const draft = ref<Region | null>(null);

function press(event: PointerEvent): void {
  if (event.button > 1) return;
  element.value!.setPointerCapture(event.pointerId);
  if (isDrawing.value && event.button === 0) drag = { kind: 'region', from: viewport.frameAt(event) };
  else drag = { kind: 'pan', x: event.clientX, y: event.clientY, from: viewport.placeIn(viewport.whole.value) };
}

function pressWipe(event: PointerEvent, region: Region): void {
  event.stopPropagation();
  element.value!.setPointerCapture(event.pointerId);
  drag = { kind: 'wipe', region };
}

const probed = (render: RenderSummary): Probed => ({
  key: renderKey(render),
  label: `Version ${render.version}, ${render.sheet}`,
  render,
});

function move(event: PointerEvent): void {
  if (drag?.kind === 'pan')
    place.value = dragged(drag.from, { x: event.clientX - drag.x, y: event.clientY - drag.y }, 1);
  const at = viewport.frameAt(event);
  if (drag?.kind === 'region') {
    draft.value = clipRegion(between(at, drag.from), frame.value.width, frame.value.height);
  } else if (drag?.kind === 'wipe') {
    view.wipe = Math.max(0, Math.min(1, (at.x - drag.region.x) / drag.region.width));
  }
  const under = renderUnder(at);
  if (!under) return probe.leave();
  probe.look(probed(under), Math.floor(at.x), Math.floor(at.y));
}

function release(): void {
  if (drag?.kind === 'region' && draft.value) {
    if (draft.value.width >= 4 && draft.value.height >= 4) view.region = draft.value;
    isDrawing.value = false;
  }
  draft.value = null;
  drag = null;
}

/** Which render is seen at a place: a trial's side, or the base. */
function renderUnder({ x, y }: { x: number; y: number }): RenderSummary | null {
  const base = current.render;
  if (!base || x < 0 || y < 0 || x >= frame.value.width || y >= frame.value.height) return null;
  if (!sides.value) return base;
  const { region, before, after } = sides.value;
  const isInside = x >= region.x && y >= region.y && x < region.x + region.width && y < region.y + region.height;
  return isInside ? ((x - region.x) / region.width < view.wipe ? before : after) : base;
}

function keyWipe(event: KeyboardEvent): void {
  const step = { ArrowLeft: -0.05, ArrowRight: 0.05 }[event.key];
  if (step === undefined) return;
  event.preventDefault();
  view.wipe = Math.max(0, Math.min(1, view.wipe + step));
}

function keyRegion(event: KeyboardEvent): void {
  const moved = current.region && regionByKey(event, current.region, frame.value);
  if (!moved) return;
  event.preventDefault();
  event.stopPropagation();
  view.region = moved;
}

const menu = useTemplateRef('menu');
const items = ref<MenuItem[]>([]);
/** The pictures that stand over each other, as one. */
function snapshot(): HTMLCanvasElement {
  const own = [...element.value!.querySelectorAll<HTMLCanvasElement>('.frame canvas.pixels')];
  const { width, height } = frame.value;
  const layers = own.map((canvas, i) => {
    if (i === 0 || !sides.value) return { canvas, x: 0, y: 0, width, height };
    const { region } = sides.value;
    const from = region.x + view.wipe * region.width;
    const right = region.x + region.width;
    const bottom = region.y + region.height;
    const clip: [number, number][] = [[from, region.y], [right, region.y], [right, bottom], [from, bottom]]; // prettier-ignore
    return { canvas, ...region, ...(i === 2 ? { clip } : {}) };
  });
  return composed(frame.value, layers);
}
async function openMenu(event: MouseEvent): Promise<void> {
  const at = viewport.frameAt(event);
  const under = renderUnder(at);
  await probe.settled();
  const values = probe.byChannel;
  const pixel =
    under && values ? { x: Math.floor(at.x), y: Math.floor(at.y), told: tellValues(values, view.pass) } : null;
  const { document } = current;
  const things = (['objects', 'materials', 'lights'] as const).flatMap((part) => {
    const id = values?.[{ objects: 'object', materials: 'material', lights: 'brightest.light' }[part]] ?? 0;
    const key = pixel && document && id > 0 ? Object.keys(document[part]).sort()[id - 1] : undefined;
    return key === undefined
      ? []
      : [{ name: document![part][key].name || key, show: () => view.showDial(`/${part}/${key}`) }];
  });
  items.value = pictureMenu({
    pixel,
    snapshot,
    name: `${shot.state!.code} ${view.pass} ${under ? `render ${under.id}` : ''}`.trim(),
    isWipe: sides.value !== null,
    setRegion: (place) => (view.region = place && regionAround(place, frame.value)),
    hasRegion: view.region !== null,
    things,
    more: document ? aimMenu(seenIn(pixel && values, document), pixel) : [],
  });
  menu.value!.show(event);
}
/** The pass that is shown, and the beauty where it is another. */
function tellValues(values: Record<string, number>, pass: string): string {
  const own = Object.keys(values).filter((name) => name === pass || name.startsWith(`${pass}.`));
  return own.map((name) => `${name} ${values[name]}`).join(', ');
}

defineExpose({
  fit: viewport.fit,
  zoom: (factor: number) => viewport.zoom(factor),
  draw: () => (isDrawing.value = !isDrawing.value),
  actual,
});
</script>

<template>
  <section id="stage" class="stage" aria-label="Picture">
    <StageTabs v-model:drawing="isDrawing" :scale="scale" @fit="viewport.fit" />
    <SweepSheet v-if="current.sweep && !current.trial" :sweep="current.sweep" />
    <div
      v-show="!current.sweep || current.trial"
      ref="element"
      class="viewport"
      :class="{ drawing: isDrawing }"
      @wheel.prevent="wheel"
      @pointerdown="press"
      @pointermove="move"
      @pointerup="release"
      @pointercancel="release"
      @pointerleave="probe.leave()"
      @dblclick="viewport.fit"
      @contextmenu.prevent="openMenu"
    >
      <template v-if="current.render">
        <div class="frame" :style="frameStyle">
          <PictureCanvas
            :render="current.render"
            :pass="view.pass"
            :exposure="view.exposure"
            :gamma="view.gamma"
            :top="top"
            @failed="failure = $event"
            @drawn="drawn"
          />
          <template v-if="sides">
            <div class="part" :style="placed(sides.region)">
              <PictureCanvas
                :key="sides.before.id"
                :render="sides.before"
                :pass="view.pass"
                :exposure="view.exposure"
                :gamma="view.gamma"
                :top="top"
              />
            </div>
            <div class="part" :style="{ ...placed(sides.region), clipPath: `inset(0 0 0 ${view.wipe * 100}%)` }">
              <PictureCanvas
                :key="sides.after.id"
                :render="sides.after"
                :pass="view.pass"
                :exposure="view.exposure"
                :gamma="view.gamma"
                :top="top"
              />
            </div>
          </template>
          <div v-else-if="live.isOn && live.seen" class="part" :style="placed(live.seen.region)"><LiveCanvas /></div>
          <MaskOverlay v-else-if="view.showMask && mask" :path="mask" :width="frame.width" :height="frame.height" />
        </div>
        <PlaceMark
          v-if="asked.mark && view.panel === 'light'"
          :screen="(x, y) => viewport.screen({ x, y, width: 0, height: 0 })"
        />
        <div v-if="sides" class="region" :style="onScreen(sides.region)">
          <span>trial {{ current.trial!.number }}: before | after</span>
          <div
            class="wipe"
            role="slider"
            tabindex="0"
            aria-label="Wipe between before and after"
            :aria-valuenow="Math.round(view.wipe * 100)"
            aria-valuemin="0"
            aria-valuemax="100"
            :style="{ left: `${view.wipe * 100}%` }"
            @pointerdown="pressWipe($event, sides.region)"
            @keydown="keyWipe"
          ></div>
        </div>
        <div v-else-if="live.isOn && live.region && !draft" class="region live" :style="onScreen(live.region)">
          <span role="status" :class="{ bad: live.problem }">{{ live.told }}</span>
        </div>
        <div
          v-else-if="draft ?? shownRegion"
          class="region"
          role="group"
          tabindex="0"
          aria-label="Region; arrow keys move it, with Shift they size it"
          :style="onScreen((draft ?? shownRegion)!)"
          @keydown="keyRegion"
        >
          <span>region {{ (draft ?? shownRegion)!.width }} × {{ (draft ?? shownRegion)!.height }}</span>
        </div>
        <p v-if="current.render.samplesDone === 0 && current.render.state === 'active'" class="note" role="status">
          The first samples are on their way …
        </p>
        <p v-else-if="current.render.state === 'failed'" class="note bad" role="alert">
          This render failed: {{ current.render.error }}
        </p>
        <p v-else-if="failure" class="note bad" role="alert">{{ failure }}</p>
        <p v-else-if="isDrawing" class="note">Drag over the picture to set the region.</p>
      </template>
      <div v-else class="note">
        There is no render of this shot yet.
        <Button @click="shot.renderSheet('preview')">Render the preview</Button>
      </div>
    </div>
    <ContextMenu ref="menu" :model="items" />
    <ViewBar />
  </section>
</template>

<style scoped>
.stage {
  height: 100%;
  background: var(--stage);
  display: grid;
  grid-template: 32px minmax(0, 1fr) auto / minmax(0, 1fr);
  min-width: 0;
}
.viewport {
  position: relative;
  overflow: hidden;
  touch-action: none;
  cursor: default;
}
.viewport.drawing {
  cursor: crosshair;
}
.frame {
  position: absolute;
  transform-origin: 0 0;
  background: #1c1c1c;
}
.part {
  position: absolute;
}
.region {
  position: absolute;
  outline: 1px solid #fff;
  box-shadow: 0 0 0 2px rgb(0 0 0 / 55%);
  pointer-events: none;
}
.region > span {
  position: absolute;
  left: -1px;
  top: 100%;
  margin-top: 4px;
  font-size: var(--small);
  background: rgb(0 0 0 / 65%);
  padding: 1px 5px;
  white-space: nowrap;
}
.region.live {
  outline-color: var(--act);
}
.region > span.bad {
  color: var(--stop);
}
.wipe {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 11px;
  margin-left: -5px;
  cursor: ew-resize;
  pointer-events: auto;
}
.wipe::after {
  content: '';
  position: absolute;
  inset: 0 4.5px;
  background: #fff;
  box-shadow: 0 0 0 1px rgb(0 0 0 / 50%);
}
.note {
  position: absolute;
  left: 50%;
  bottom: 14px;
  transform: translateX(-50%);
  background: rgb(0 0 0 / 70%);
  padding: 4px 10px;
  border-radius: 3px;
  max-width: 90%;
}
.note.bad {
  color: var(--stop);
}
</style>
