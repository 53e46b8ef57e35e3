<script setup lang="ts">
/**
 * The picture, or several: drawn at the screen's own pixels by the worker that keeps them. Zoom and pan are those of
 * the frame, so that whatever stands beside or over another shows the same place.
 */
import type { MenuItem } from 'primevue/menuitem';
import ContextMenu from 'primevue/contextmenu';
import { computed, onBeforeUnmount, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { clipRegion, type Region } from '../../../core/data/picture.ts';
import { desk } from '../../picture/desk.ts';
import { latest } from '../../picture/latest.ts';
import { show } from '../../picture/snapshot.ts';
import { pictureMenu } from '../../picture/picture-menu.ts';
import { composed } from '../../picture/snapshot.ts';
import { useLook } from '../../stores/look.ts';
import { useProbe } from '../../stores/probe.ts';
import { dragged, type Box, type Place, type Point } from '../../viewer/frame-place.ts';
import { regionAround, regionByKey } from '../../viewer/region.ts';
import { between, placed, useViewport, wheelFactor } from '../../viewer/viewport.ts';
import { isFirst, wipeClip, wipeLine, wipePart, wipeThrough, wipeTurned } from '../../viewer/wipe-line.ts';
import LookOverlay from './LookOverlay.vue';
import { usePanes, type Pane } from './panes.ts';
import PinDialog from './PinDialog.vue';

const look = useLook();
const probe = useProbe();
const element = ref<HTMLElement | null>(null);
const canvases = ref<HTMLCanvasElement[]>([]);
const isDrawing = ref(false);
const isPinning = ref(false);
const failure = ref('');
const drawMs = ref(0);

const frame = computed(() => {
  const w = look.information?.displayWindow;
  return w ? { width: w.maxX - w.minX + 1, height: w.maxY - w.minY + 1 } : { width: 16, height: 9 };
});
const aspect = computed(() => look.information?.pixelAspect ?? 1);
/** Passes beside each other are shown whole, whatever part is looked at alone. */
const place = computed<Place | null>({
  get: () => (look.mode === 'passes' ? null : look.place),
  set: (wanted) => (look.place = wanted),
});
const viewport = useViewport(element, frame, place, aspect);
const { size } = viewport;

const { boxes, growth, cellOf } = usePanes(viewport, frame, aspect);
const first = computed<Box>(() => boxes.value[0] ?? viewport.whole.value);
const mainPlace = computed(() => viewport.placeIn(first.value));

const draw = latest(async () => {
  const list = boxes.value;
  if (list.length === 0) return;
  try {
    const begin = performance.now();
    const drawn = await desk.ask('draw', { cells: list.map(cellOf), look: { ...look.view } });
    drawMs.value = performance.now() - begin;
    look.scaleTop = drawn[0]?.top ?? null;
    drawn.forEach((one, i) => {
      const canvas = canvases.value[i];
      if (one && canvas && list.length === boxes.value.length) show(one.image, canvas);
    });
    failure.value = '';
  } catch (error) {
    failure.value = (error as Error).message;
  }
});

watch(
  () => JSON.stringify([boxes.value.map(cellOf), look.view, look.rows]),
  () => void draw(),
);
watch(canvases, () => void draw(), { deep: true, flush: 'post' });

/** Every picture that is on the screen is opened. */
watch(
  () => [look.shown, ...look.against].flatMap((one) => one?.stamp ?? []).join(),
  () => {
    for (const source of [look.shown, ...look.against])
      if (source) {
        void look.open(source);
        probe.again(source);
      }
  },
  { immediate: true },
);

onBeforeUnmount(() => {
  if (blinking) clearInterval(blinking);
});

let blinking: ReturnType<typeof setInterval> | null = null;
const BLINK_MS = 600;
watch(
  () => look.mode === 'blink' && look.against.length > 0,
  (on) => {
    if (blinking) clearInterval(blinking);
    blinking = on ? setInterval(() => (look.blinksB = !look.blinksB), BLINK_MS) : null;
    look.blinksB = false;
  },
  { immediate: true },
);

/** The pane under a place of the viewport, and the frame's pixel there. */
function under(event: MouseEvent): { box: Pane; x: number; y: number } | null {
  const point = viewport.pointOf(event);
  const inside = boxes.value.filter((one) => point.x >= one.x && point.y >= one.y && point.x < one.x + one.width && point.y < one.y + one.height); // prettier-ignore
  const box = look.mode === 'wipe' && inside.length > 1 && !isFirst(line.value, point) ? inside[1] : inside[0];
  return box ? { box, ...viewport.frameAt(event, box) } : null;
}

const line = computed(() => wipeLine(size.value, look.wipe));
const clip = computed(() => wipeClip(line.value, size.value));

function zoom(factor: number, event?: MouseEvent): void {
  if (boxes.value.length === 0 || look.mode === 'passes') return;
  viewport.zoom(factor, first.value, (event && under(event)) ?? undefined);
}

/** Where a note is being written. */
const pinAt = ref<Point | null>(null);
function pin(text: string): void {
  if (pinAt.value) look.pins = [...look.pins, { ...pinAt.value, text }];
  pinAt.value = null;
}

type Drag = { kind: 'pan'; x: number; y: number; from: Place } | { kind: 'region'; from: Point } | { kind: 'wipe' };
let drag: Drag | null = null;
const draft = shallowRef<Region | null>(null);

function press(event: PointerEvent): void {
  const at = under(event);
  if (event.button > 1 || !at) return;
  if (isPinning.value) {
    pinAt.value = { x: Math.floor(at.x), y: Math.floor(at.y) };
    isPinning.value = false;
    return;
  }
  if (look.mode === 'passes') {
    look.layer = at.box.layer;
    look.mode = 'one';
    return;
  }
  element.value!.setPointerCapture(event.pointerId);
  if (isDrawing.value && event.button === 0) drag = { kind: 'region', from: at };
  else drag = { kind: 'pan', x: event.clientX, y: event.clientY, from: viewport.placeIn(at.box) };
}

function move(event: PointerEvent): void {
  if (drag?.kind === 'pan') {
    place.value = dragged(drag.from, { x: event.clientX - drag.x, y: event.clientY - drag.y }, aspect.value);
    return;
  }
  if (drag?.kind === 'wipe') return moveWipe(event);
  const at = under(event);
  if (!at) return probe.leave();
  if (drag?.kind === 'region') {
    draft.value = clipRegion(between(at, drag.from), frame.value.width, frame.value.height);
    return;
  }
  const own = growth(at.box.source);
  probe.look(at.box.source, Math.floor(at.x / own), Math.floor(at.y / own));
}

function moveWipe(event: PointerEvent): void {
  const point = viewport.pointOf(event);
  if (event.shiftKey) look.wipe.angle = wipeTurned(point, size.value);
  else look.wipe.at = wipeThrough(point, size.value, look.wipe.angle);
}

function release(): void {
  if (drag?.kind === 'region') {
    if (draft.value && draft.value.width >= 2 && draft.value.height >= 2) look.region = draft.value;
    isDrawing.value = false;
  }
  draft.value = null;
  drag = null;
}

function pressWipe(event: PointerEvent): void {
  event.stopPropagation();
  element.value!.setPointerCapture(event.pointerId);
  drag = { kind: 'wipe' };
}
function keyWipe(event: KeyboardEvent): void {
  const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -1, ArrowDown: 1 }[event.key];
  if (by === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  if (event.shiftKey) look.wipe.angle = (look.wipe.angle + 15 * by + 360) % 360;
  else look.wipe.at = Math.max(0, Math.min(1, look.wipe.at + 0.02 * by));
}

const opening = computed(() => (look.shown && !look.information ? look.shown.label : null));
const told = computed(() => look.failures.get(look.shown?.key ?? '') ?? failure.value);

function keyRegion(event: KeyboardEvent): void {
  const moved = look.region && regionByKey(event, look.region, frame.value);
  if (!moved) return;
  event.preventDefault();
  event.stopPropagation();
  look.region = moved;
}

const menu = useTemplateRef('menu');
const items = ref<MenuItem[]>([]);
function snapshot(): HTMLCanvasElement {
  const parts = look.mode === 'wipe' ? wipePart(line.value, size.value) : undefined;
  return composed(
    size.value,
    boxes.value.map((box, i) => ({
      canvas: canvases.value[i],
      x: box.x,
      y: box.y,
      width: box.width,
      height: box.height,
      ...(i === 1 && parts ? { clip: parts } : {}),
    })),
  );
}
async function openMenu(event: MouseEvent): Promise<void> {
  const at = under(event);
  await probe.settled();
  const { values } = probe;
  const shown = values?.channels.filter(({ name }) => look.shownLayer?.channels.includes(name)) ?? [];
  const told = shown.map(({ name, mean }) => `${name} ${mean}`).join(', ');
  items.value = pictureMenu({
    pixel: at && values ? { x: values.x, y: values.y, told } : null,
    snapshot,
    name: `${look.shown?.label ?? 'picture'} ${look.shownLayer?.name ?? ''}`.trim(),
    isWipe: look.mode === 'wipe' && look.against.length > 0,
    setRegion: (place) => (look.region = place && regionAround(place, frame.value)),
    hasRegion: look.region !== null,
    things: [],
  });
  menu.value!.show(event);
}

defineExpose({
  fit: viewport.fit,
  actual: () => zoom(1 / mainPlace.value.scale),
  zoom,
  pan: (dx: number, dy: number) => viewport.pan(dx, dy, first.value),
  draw: () => (isDrawing.value = !isDrawing.value),
  pin: () => (isPinning.value = !isPinning.value),
  scale: computed(() => mainPlace.value.scale),
});
</script>

<template>
  <div
    ref="element"
    class="viewport"
    :class="{ crossed: isDrawing || isPinning }"
    :data-drawn-ms="drawMs.toFixed(1)"
    @wheel.prevent="zoom(wheelFactor($event), $event)"
    @pointerdown="press"
    @pointermove="move"
    @pointerup="release"
    @pointercancel="release"
    @pointerleave="probe.leave()"
    @dblclick="viewport.fit"
    @contextmenu.prevent="openMenu"
  >
    <canvas
      v-for="(box, i) in boxes"
      :key="i"
      ref="canvases"
      role="img"
      :aria-label="`${look.layerTitle(box.layer)} of ${box.label}`"
      :style="{ ...placed(box), clipPath: look.mode === 'wipe' && i === 1 ? clip : undefined }"
    ></canvas>
    <template v-if="boxes.length > 1 && look.mode !== 'wipe'">
      <span
        v-for="(box, i) in boxes"
        :key="`label ${i}`"
        class="label"
        :class="{ chosen: look.mode === 'passes' && box.layer === look.shownLayer?.name }"
        :style="{ left: `${box.x + 6}px`, top: `${box.y + 6}px`, maxWidth: `${box.width - 12}px` }"
        >{{ box.label }}</span
      >
    </template>
    <LookOverlay
      v-if="boxes.length && look.mode !== 'passes'"
      :frame="frame"
      :region="draft ?? look.region"
      :on-screen="(rect: Box) => viewport.screen(rect, first)"
    />
    <div
      v-if="look.region && boxes.length && look.mode !== 'passes'"
      class="region"
      role="group"
      tabindex="0"
      aria-label="Region; arrow keys move it, with Shift they size it"
      :style="placed(viewport.screen(look.region, first))"
      @keydown="keyRegion"
    ></div>
    <template v-if="look.mode === 'wipe' && boxes.length > 1">
      <div
        class="wipe"
        role="slider"
        tabindex="0"
        aria-label="Wipe; Shift turns it"
        :aria-valuenow="Math.round(look.wipe.at * 100)"
        aria-valuemin="0"
        aria-valuemax="100"
        :style="{
          left: `${line.x}px`,
          top: `${line.y}px`,
          transform: `translate(-50%, -50%) rotate(${look.wipe.angle}deg)`,
        }"
        @pointerdown="pressWipe"
        @keydown="keyWipe"
      ></div>
      <span class="label" :style="{ left: '6px', top: '6px' }">{{ boxes[0].label }}</span>
      <span class="label" :style="{ right: '6px', bottom: '6px' }">{{ boxes[1].label }}</span>
    </template>
    <p v-if="told" class="note bad" role="alert">{{ told }}</p>
    <p v-else-if="opening" class="note" role="status">Reading {{ opening }} …</p>
    <p v-else-if="look.information && look.information.done < 1" class="note" role="status">
      {{ Math.round(look.information.done * 100) }} % of {{ look.shown?.label }} decoded
    </p>
    <p v-else-if="isDrawing" class="note">Drag over the picture to set the region.</p>
    <p v-else-if="isPinning" class="note">Click where the pin goes.</p>
    <slot v-else-if="!look.shown" name="empty"></slot>
    <ContextMenu ref="menu" :model="items" />
    <PinDialog v-if="pinAt" @pin="pin" @closed="pinAt = null" />
  </div>
</template>

<style scoped>
.viewport {
  position: relative;
  overflow: hidden;
  touch-action: none;
  background: var(--stage);
  min-height: 0;
  height: 100%;
}
.viewport.crossed {
  cursor: crosshair;
}
canvas {
  position: absolute;
  display: block;
}
.label {
  position: absolute;
  font-size: var(--small);
  background: rgb(0 0 0 / 65%);
  padding: 1px 5px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  pointer-events: none;
}
.label.chosen {
  box-shadow: 0 2px var(--act);
}
.wipe {
  position: absolute;
  width: 6000px;
  height: 11px;
  cursor: move;
}
.wipe::after {
  content: '';
  position: absolute;
  inset: 5px 0;
  background: #fff;
  box-shadow: 0 0 0 1px rgb(0 0 0 / 50%);
}
.region {
  position: absolute;
  pointer-events: none;
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
