<script setup lang="ts">
/**
 * The picture, or several: drawn at the screen's own pixels by the worker that keeps them. Zoom and pan are those of
 * the frame, so that whatever stands beside or over another shows the same place.
 */
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { clipRegion, type Region } from '../../../core/data/picture.ts';
import { desk } from '../../picture/desk.ts';
import type { Cell } from '../../picture/desk-messages.ts';
import { useLayerShares } from '../../stores/layer-shares.ts';
import { useLook, type LookSource } from '../../stores/look.ts';
import { useLookProbe } from '../../stores/look-probe.ts';

const look = useLook();
const probe = useLookProbe();
const shares = useLayerShares();
const viewport = ref<HTMLElement | null>(null);
const size = ref({ width: 1, height: 1 });
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

interface Box {
  source: LookSource;
  layer: string;
  x: number;
  y: number;
  width: number;
  height: number;
  label: string;
  against: Cell['against'];
}

/** What stands where on the screen. */
const boxes = computed<Box[]>(() => {
  const { shown, shownLayer, mode } = look;
  if (!shown || !shownLayer) return [];
  const whole = { x: 0, y: 0, ...size.value };
  const box = (source: LookSource, place: typeof whole, layer = shownLayer.name): Box => ({ source, layer, ...place, label: source.label, against: null }); // prettier-ignore
  const [b] = look.against;
  if (mode === 'passes') {
    const all = look.layers.filter((one) => one.look === 'light');
    return tiled(all.length).map((place, i) => ({ ...box(shown, place, all[i].name), label: [look.layerTitle(all[i].name), shares.tellShort(all[i].name)].filter(Boolean).join(', ') })); // prettier-ignore
  }
  if (!b || mode === 'one') return [box(shown, whole)];
  if (mode === 'difference') {
    const { kind, times } = look.difference;
    return [{ ...box(shown, whole), against: { key: b.key, kind, times }, label: `${b.label} less ${shown.label}` }];
  }
  if (mode === 'blink') return [box(look.blinksB ? b : shown, whole)];
  if (mode === 'wipe') return [box(shown, whole), box(b, whole)];
  const list = mode === 'side' ? [shown, b] : [shown, ...look.against];
  const places = mode === 'side' ? halves() : tiled(list.length);
  return list.map((source, i) => box(source, places[i]));
});

const GAP = 2;
function halves() {
  const width = (size.value.width - GAP) / 2;
  return [0, 1].map((i) => ({ x: Math.round(i * (width + GAP)), y: 0, width: Math.floor(width), height: size.value.height })); // prettier-ignore
}
/** As many columns as make the tiles largest for the frame's shape. */
function tiled(count: number) {
  const { width, height } = size.value;
  const shape = (frame.value.width * aspect.value) / frame.value.height;
  const fits = (columns: number) => Math.min(width / columns, (height / Math.ceil(count / columns)) * shape);
  const columns = Array.from({ length: count }, (_, i) => i + 1).reduce((best, one) => (fits(one) > fits(best) ? one : best), 1); // prettier-ignore
  const rows = Math.ceil(count / columns);
  const [w, h] = [Math.floor((width - GAP * (columns - 1)) / columns), Math.floor((height - GAP * (rows - 1)) / rows)];
  return Array.from({ length: count }, (_, i) => ({
    x: (i % columns) * (w + GAP),
    y: Math.floor(i / columns) * (h + GAP),
    width: w,
    height: h,
  }));
}

const fitted = (box: { width: number; height: number }) =>
  Math.min((box.width - 12) / (frame.value.width * aspect.value), (box.height - 12) / frame.value.height);
/** Scale and middle that a box is shown with. */
function placeOf(box: { width: number; height: number }) {
  const isSheet = look.mode === 'passes';
  const place = isSheet ? null : look.place;
  return place ?? { scale: Math.max(0.01, fitted(box)), x: frame.value.width / 2, y: frame.value.height / 2 };
}
const mainPlace = computed(() => placeOf(boxes.value[0] ?? size.value));

/** By how much a picture of another size grows to lie over the one that is shown. */
function growth(source: LookSource): number {
  const w = look.opened.get(source.key)?.displayWindow;
  return w ? frame.value.width / (w.maxX - w.minX + 1) : 1;
}

function cellOf(box: Box): Cell {
  const { scale, x, y } = placeOf(box);
  const own = growth(box.source);
  return {
    key: box.source.key,
    layer: box.layer,
    screen: {
      width: box.width,
      height: box.height,
      scale: scale * own,
      aspect: aspect.value,
      x: box.width / 2 - x * scale * aspect.value,
      y: box.height / 2 - y * scale,
    },
    against: box.against,
    balance: box.layer === look.beautyName ? look.balance : {},
    space: box.source.set?.reading.space ?? null,
    bakedExposure: box.source.set?.reading.bakedExposure ?? 0,
    mask: box.source.key === look.shown?.key && look.mode !== 'passes' ? look.mask : null,
    isNormalised: look.isNormalised,
  };
}

let busy = false;
let wanted = false;
async function draw(): Promise<void> {
  wanted = true;
  if (busy) return;
  busy = true;
  while (wanted) {
    wanted = false;
    const list = boxes.value;
    if (list.length === 0) break;
    try {
      const begin = performance.now();
      const drawn = await desk.ask('draw', { cells: list.map(cellOf), look: { ...look.view } });
      drawMs.value = performance.now() - begin;
      look.scaleTop = drawn[0]?.top ?? null;
      drawn.forEach((one, i) => {
        const canvas = canvases.value[i];
        const image = one?.image;
        if (!image || !canvas || list.length !== boxes.value.length) return;
        if (canvas.width !== image.width || canvas.height !== image.height) {
          canvas.width = image.width;
          canvas.height = image.height;
        }
        canvas.getContext('2d')!.putImageData(image, 0, 0);
      });
      failure.value = '';
    } catch (error) {
      failure.value = (error as Error).message;
    }
  }
  busy = false;
}

watch(
  () => JSON.stringify([boxes.value.map(cellOf), look.view, look.rows]),
  () => void draw(),
);
watch(canvases, () => void draw(), { deep: true, flush: 'post' });

/** Every picture that is on the screen is opened. */
watch(
  () => [look.shown, ...look.against].flatMap((one) => (one ? [`${one.key} ${'revision' in one.ref ? one.ref.revision : ''}`] : [])).join(), // prettier-ignore
  () => {
    for (const source of [look.shown, ...look.against]) if (source) void look.open(source);
  },
  { immediate: true },
);

const observer = new ResizeObserver(([entry]) => {
  size.value = { width: Math.floor(entry.contentRect.width), height: Math.floor(entry.contentRect.height) };
});
onMounted(() => observer.observe(viewport.value!));
onBeforeUnmount(() => {
  observer.disconnect();
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

/** The box under a place of the viewport, and the frame's pixel there. */
function under(event: MouseEvent): { box: Box; x: number; y: number } | null {
  const bounds = viewport.value!.getBoundingClientRect();
  const [px, py] = [event.clientX - bounds.left, event.clientY - bounds.top];
  const inside = boxes.value.filter((one) => px >= one.x && py >= one.y && px < one.x + one.width && py < one.y + one.height); // prettier-ignore
  const box = look.mode === 'wipe' && inside.length > 1 && !isFirst(px, py) ? inside[1] : inside[0];
  if (!box) return null;
  const place = placeOf(box);
  return {
    box,
    x: (px - box.x - box.width / 2) / (place.scale * aspect.value) + place.x,
    y: (py - box.y - box.height / 2) / place.scale + place.y,
  };
}

/** The line of a wipe goes through this place at this angle; the first picture is on its near side. */
const wipeLine = computed(() => {
  const { width, height } = size.value;
  const radians = (look.wipe.angle * Math.PI) / 180;
  const normal = { x: Math.sin(radians), y: -Math.cos(radians) };
  const reach = Math.abs(normal.x) * width + Math.abs(normal.y) * height;
  const at = (look.wipe.at - 0.5) * reach;
  return { normal, x: width / 2 + normal.x * at, y: height / 2 + normal.y * at };
});
const isFirst = (x: number, y: number) =>
  (x - wipeLine.value.x) * wipeLine.value.normal.x + (y - wipeLine.value.y) * wipeLine.value.normal.y < 0;
const wipeClip = computed(() => {
  const { normal, x, y } = wipeLine.value;
  const far = 4 * (size.value.width + size.value.height);
  const along = { x: -normal.y, y: normal.x };
  const corners = [
    [x + along.x * far, y + along.y * far],
    [x + along.x * far + normal.x * far, y + along.y * far + normal.y * far],
    [x - along.x * far + normal.x * far, y - along.y * far + normal.y * far],
    [x - along.x * far, y - along.y * far],
  ];
  return `polygon(${corners.map(([px, py]) => `${px.toFixed(1)}px ${py.toFixed(1)}px`).join(', ')})`;
});

function zoom(factor: number, event?: MouseEvent): void {
  const box = boxes.value[0];
  if (!box || look.mode === 'passes') return;
  const before = placeOf(box);
  const scale = Math.max(0.02, Math.min(64, before.scale * factor));
  const at = event && under(event);
  const k = before.scale / scale;
  look.place = at
    ? { scale, x: at.x - (at.x - before.x) * k, y: at.y - (at.y - before.y) * k }
    : { scale, x: before.x, y: before.y };
}

type Drag =
  | { kind: 'pan'; x: number; y: number; from: { scale: number; x: number; y: number } }
  | { kind: 'region'; from: { x: number; y: number } }
  | { kind: 'wipe' };
let drag: Drag | null = null;
const draft = ref<Region | null>(null);

function press(event: PointerEvent): void {
  const at = under(event);
  if (event.button > 1 || !at) return;
  if (isPinning.value) {
    const text = window.prompt('What is there?')?.trim();
    if (text) look.pins = [...look.pins, { x: Math.floor(at.x), y: Math.floor(at.y), text: text.slice(0, 200) }];
    isPinning.value = false;
    return;
  }
  if (look.mode === 'passes') {
    look.layer = at.box.layer;
    look.mode = 'one';
    return;
  }
  viewport.value!.setPointerCapture(event.pointerId);
  if (isDrawing.value && event.button === 0) drag = { kind: 'region', from: at };
  else drag = { kind: 'pan', x: event.clientX, y: event.clientY, from: placeOf(at.box) };
}

function move(event: PointerEvent): void {
  if (drag?.kind === 'pan') {
    const { scale, x, y } = drag.from;
    look.place = {
      scale,
      x: x - (event.clientX - drag.x) / (scale * aspect.value),
      y: y - (event.clientY - drag.y) / scale,
    };
    return;
  }
  if (drag?.kind === 'wipe') return moveWipe(event);
  const at = under(event);
  if (!at) return probe.leave();
  if (drag?.kind === 'region') {
    const from = drag.from;
    const wish = { x: Math.min(at.x, from.x), y: Math.min(at.y, from.y), width: Math.abs(at.x - from.x), height: Math.abs(at.y - from.y) }; // prettier-ignore
    draft.value = clipRegion(wish, frame.value.width, frame.value.height);
    return;
  }
  const own = growth(at.box.source);
  probe.look(at.box.source, Math.floor(at.x / own), Math.floor(at.y / own));
}

function moveWipe(event: PointerEvent): void {
  const bounds = viewport.value!.getBoundingClientRect();
  const [x, y] = [event.clientX - bounds.left, event.clientY - bounds.top];
  const { width, height } = size.value;
  if (event.shiftKey) {
    // Turned about the middle of the screen.
    const turn = (Math.atan2(y - height / 2, x - width / 2) * 180) / Math.PI;
    look.wipe.angle = Math.round((turn + 360) % 360);
    return;
  }
  const { normal } = wipeLine.value;
  const reach = Math.abs(normal.x) * width + Math.abs(normal.y) * height;
  look.wipe.at = Math.max(0, Math.min(1, ((x - width / 2) * normal.x + (y - height / 2) * normal.y) / reach + 0.5));
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
  viewport.value!.setPointerCapture(event.pointerId);
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

/** Where a rectangle of the frame is in the viewport, in the first box. */
function onScreen(r: Region) {
  const box = boxes.value[0] ?? { x: 0, y: 0, ...size.value };
  const { scale, x, y } = mainPlace.value;
  return {
    x: box.x + box.width / 2 + (r.x - x) * scale * aspect.value,
    y: box.y + box.height / 2 + (r.y - y) * scale,
    width: r.width * scale * aspect.value,
    height: r.height * scale,
  };
}
const frameBox = computed(() => onScreen({ x: 0, y: 0, ...frame.value }));
const dataBox = computed(() => {
  const [d, w] = [look.shownLayer?.dataWindow, look.information?.displayWindow];
  if (!d || !w || (d.minX === w.minX && d.minY === w.minY && d.maxX === w.maxX && d.maxY === w.maxY)) return null;
  return onScreen({ x: d.minX - w.minX, y: d.minY - w.minY, width: d.maxX - d.minX + 1, height: d.maxY - d.minY + 1 });
});
const regionBox = computed(() => {
  const region = draft.value ?? look.region;
  return region && look.mode !== 'passes' ? { ...onScreen(region), region } : null;
});
const guideLines = computed(() => {
  const { x, y, width, height } = frameBox.value;
  const across = (share: number) => ({ x1: x, y1: y + height * share, x2: x + width, y2: y + height * share });
  const down = (share: number) => ({ x1: x + width * share, y1: y, x2: x + width * share, y2: y + height });
  if (look.guides === 'thirds') return [across(1 / 3), across(2 / 3), down(1 / 3), down(2 / 3)];
  return look.guides === 'centre' ? [across(0.5), down(0.5)] : [];
});
/** Action and title areas. Source: SMPTE ST 2046-1: 93 % and 90 % of width and height. */
const safeAreas = computed(() =>
  look.guides === 'safe'
    ? [0.93, 0.9].map((share) => {
        const { x, y, width, height } = frameBox.value;
        return { x: x + (width * (1 - share)) / 2, y: y + (height * (1 - share)) / 2, width: width * share, height: height * share }; // prettier-ignore
      })
    : [],
);

const opening = computed(() => (look.shown && !look.information ? look.shown.label : null));
const told = computed(() => look.failures.get(look.shown?.key ?? '') ?? failure.value);

defineExpose({
  fit: () => (look.place = null),
  actual: () => zoom(1 / mainPlace.value.scale),
  zoom,
  pan(dx: number, dy: number) {
    const { scale, x, y } = mainPlace.value;
    look.place = { scale, x: x + (dx * size.value.width) / scale, y: y + (dy * size.value.height) / scale };
  },
  draw: () => (isDrawing.value = !isDrawing.value),
  pin: () => (isPinning.value = !isPinning.value),
  scale: computed(() => mainPlace.value.scale),
});
</script>

<template>
  <div
    ref="viewport"
    class="viewport"
    :class="{ crossed: isDrawing || isPinning }"
    :data-drawn-ms="drawMs.toFixed(1)"
    @wheel.prevent="zoom(2 ** (-$event.deltaY / 400), $event)"
    @pointerdown="press"
    @pointermove="move"
    @pointerup="release"
    @pointercancel="release"
    @pointerleave="probe.leave()"
    @dblclick="look.place = null"
  >
    <canvas
      v-for="(box, i) in boxes"
      :key="i"
      ref="canvases"
      role="img"
      :aria-label="`${look.layerTitle(box.layer)} of ${box.label}`"
      :style="{
        left: `${box.x}px`,
        top: `${box.y}px`,
        width: `${box.width}px`,
        height: `${box.height}px`,
        clipPath: look.mode === 'wipe' && i === 1 ? wipeClip : undefined,
      }"
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
    <svg v-if="boxes.length && look.mode !== 'passes'" class="over" aria-hidden="true">
      <rect v-if="dataBox || look.guides !== 'none'" class="edge" v-bind="frameBox" />
      <rect v-if="dataBox" class="edge dashed" v-bind="dataBox" />
      <line v-for="(line, i) in guideLines" :key="i" class="edge" v-bind="line" />
      <rect v-for="(area, i) in safeAreas" :key="`safe ${i}`" class="edge" v-bind="area" />
      <rect
        v-if="regionBox"
        class="region"
        :x="regionBox.x"
        :y="regionBox.y"
        :width="regionBox.width"
        :height="regionBox.height"
      />
      <g v-for="(pin, i) in look.pins" :key="`pin ${i}`">
        <circle
          class="pin"
          :cx="onScreen({ ...pin, width: 1, height: 1 }).x"
          :cy="onScreen({ ...pin, width: 1, height: 1 }).y"
          r="5"
        />
        <text
          class="pinned"
          :x="onScreen({ ...pin, width: 1, height: 1 }).x + 9"
          :y="onScreen({ ...pin, width: 1, height: 1 }).y + 4"
        >
          {{ pin.text }}
        </text>
      </g>
    </svg>
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
          left: `${wipeLine.x}px`,
          top: `${wipeLine.y}px`,
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
.over {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.edge {
  fill: none;
  stroke: rgb(255 255 255 / 55%);
}
.edge.dashed {
  stroke-dasharray: 5 4;
}
.region {
  fill: none;
  stroke: #fff;
  paint-order: stroke;
  outline: 1px solid rgb(0 0 0 / 60%);
}
.pin {
  fill: var(--act);
  stroke: #000;
}
.pinned {
  fill: #fff;
  font-size: 12px;
  paint-order: stroke;
  stroke: rgb(0 0 0 / 75%);
  stroke-width: 3px;
}
.label {
  position: absolute;
  font-size: 11px;
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
