<script setup lang="ts">
/** The picture and what lies on it: mask, region, a trial's wipe, the probe. */
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import type { RenderSummary } from '../../core/contracts/events.ts';
import { clipRegion, type Region } from '../../core/data/picture.ts';
import { useCurrent } from '../stores/current.ts';
import { useLive } from '../stores/live.ts';
import { useProbe } from '../stores/probe.ts';
import { useShot } from '../stores/shot.ts';
import { useView } from '../stores/view.ts';
import LiveCanvas from './LiveCanvas.vue';
import MaskOverlay from './MaskOverlay.vue';
import PictureCanvas from './PictureCanvas.vue';
import SweepSheet from './SweepSheet.vue';
import StageTabs from './StageTabs.vue';
import ViewBar from './ViewBar.vue';

const shot = useShot();
const view = useView();
const current = useCurrent();
const probe = useProbe();
const live = useLive();

const viewport = ref<HTMLElement | null>(null);
const size = ref({ width: 1, height: 1 });
const scale = ref(1);
const offset = ref({ x: 0, y: 0 });
/** Follows the room there is, until a person zooms or pans. */
const isFitted = ref(true);
const isDrawing = ref(false);
const failure = ref('');

const frame = computed(() => ({ width: current.render?.width ?? 16, height: current.render?.height ?? 9 }));
const top = computed(() => current.figures?.tops[view.pass] ?? 1);
const sides = computed(() => {
  const trial = current.trial;
  if (!trial) return null;
  const [before, after] = [shot.renderOf(trial.beforeRenderId), shot.renderOf(trial.afterRenderId)];
  return before && after ? { before, after, region: trial.region } : null;
});
/** Of the object whose controls are open, or of the finding. */
const mask = computed(() => {
  const { render, finding } = current;
  const object = view.panel === 'scene' ? /^\/objects\/([^/]+)/.exec(view.item ?? '')?.[1] : undefined;
  const isWhole = render && render.region.width === render.width && render.region.height === render.height;
  if (object !== undefined && isWhole)
    return `/renders/${render.id}/mask?object=${encodeURIComponent(object)}&at=${render.revision}`;
  return finding && finding.renderId === render?.id ? `/findings/${finding.id}/mask` : null;
});

function fit(): void {
  const { width, height } = size.value;
  scale.value = Math.min((width - 16) / frame.value.width, (height - 16) / frame.value.height);
  offset.value = {
    x: (width - frame.value.width * scale.value) / 2,
    y: (height - frame.value.height * scale.value) / 2,
  };
  isFitted.value = true;
}

function zoom(factor: number, x = size.value.width / 2, y = size.value.height / 2): void {
  const next = Math.max(0.05, Math.min(64, scale.value * factor));
  const k = next / scale.value;
  offset.value = { x: x - (x - offset.value.x) * k, y: y - (y - offset.value.y) * k };
  scale.value = next;
  isFitted.value = false;
}

const observer = new ResizeObserver(([entry]) => {
  // A contact sheet stands in its place for now.
  if (entry.contentRect.width === 0) return;
  size.value = { width: entry.contentRect.width, height: entry.contentRect.height };
  if (isFitted.value) fit();
});
onMounted(() => observer.observe(viewport.value!));
onBeforeUnmount(() => observer.disconnect());
watch(frame, (now, was) => (now.width !== was.width || now.height !== was.height) && fit());

const frameStyle = computed(() => ({
  width: `${frame.value.width}px`,
  height: `${frame.value.height}px`,
  transform: `translate(${offset.value.x}px, ${offset.value.y}px) scale(${scale.value})`,
}));
const inFrame = (r: Region) => ({
  left: `${r.x}px`,
  top: `${r.y}px`,
  width: `${r.width}px`,
  height: `${r.height}px`,
});
const onScreen = (r: Region) => ({
  left: `${offset.value.x + r.x * scale.value}px`,
  top: `${offset.value.y + r.y * scale.value}px`,
  width: `${r.width * scale.value}px`,
  height: `${r.height * scale.value}px`,
});

/** Frame pixels under a pointer event. */
function pixelAt(event: PointerEvent | WheelEvent | MouseEvent): { x: number; y: number } {
  const box = viewport.value!.getBoundingClientRect();
  return {
    x: (event.clientX - box.left - offset.value.x) / scale.value,
    y: (event.clientY - box.top - offset.value.y) / scale.value,
  };
}

function wheel(event: WheelEvent): void {
  const box = viewport.value!.getBoundingClientRect();
  zoom(2 ** (-event.deltaY / 400), event.clientX - box.left, event.clientY - box.top);
}

type Drag =
  | { kind: 'pan'; x: number; y: number; from: { x: number; y: number } }
  | { kind: 'region'; from: { x: number; y: number } }
  | { kind: 'wipe'; region: Region };
let drag: Drag | null = null;
const draft = ref<Region | null>(null);

function press(event: PointerEvent): void {
  if (event.button > 1) return;
  viewport.value!.setPointerCapture(event.pointerId);
  if (isDrawing.value && event.button === 0) drag = { kind: 'region', from: pixelAt(event) };
  else drag = { kind: 'pan', x: event.clientX, y: event.clientY, from: { ...offset.value } };
}

function pressWipe(event: PointerEvent, region: Region): void {
  event.stopPropagation();
  viewport.value!.setPointerCapture(event.pointerId);
  drag = { kind: 'wipe', region };
}

function move(event: PointerEvent): void {
  const at = pixelAt(event);
  if (drag?.kind === 'pan') {
    offset.value = { x: drag.from.x + event.clientX - drag.x, y: drag.from.y + event.clientY - drag.y };
    isFitted.value = false;
  } else if (drag?.kind === 'region') {
    const wanted = {
      x: Math.min(at.x, drag.from.x),
      y: Math.min(at.y, drag.from.y),
      width: Math.abs(at.x - drag.from.x),
      height: Math.abs(at.y - drag.from.y),
    };
    draft.value = clipRegion(wanted, frame.value.width, frame.value.height);
  } else if (drag?.kind === 'wipe') {
    view.wipe = Math.max(0, Math.min(1, (at.x - drag.region.x) / drag.region.width));
  }
  probe.look(renderUnder(at), Math.floor(at.x), Math.floor(at.y));
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

defineExpose({
  fit,
  zoom,
  draw: () => (isDrawing.value = !isDrawing.value),
  actual: () => zoom(1 / scale.value),
});
</script>

<template>
  <section class="stage" aria-label="Picture">
    <StageTabs v-model:drawing="isDrawing" :scale="scale" @fit="fit" />
    <SweepSheet v-if="current.sweep && !current.trial" :sweep="current.sweep" />
    <div
      v-show="!current.sweep || current.trial"
      ref="viewport"
      class="viewport"
      :class="{ drawing: isDrawing }"
      @wheel.prevent="wheel"
      @pointerdown="press"
      @pointermove="move"
      @pointerup="release"
      @pointercancel="release"
      @pointerleave="probe.leave()"
      @dblclick="fit"
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
            @drawn="failure = ''"
          />
          <template v-if="sides">
            <div class="part" :style="inFrame(sides.region)">
              <PictureCanvas
                :key="sides.before.id"
                :render="sides.before"
                :pass="view.pass"
                :exposure="view.exposure"
                :gamma="view.gamma"
                :top="top"
              />
            </div>
            <div class="part" :style="{ ...inFrame(sides.region), clipPath: `inset(0 0 0 ${view.wipe * 100}%)` }">
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
          <div v-else-if="live.isOn && live.seen" class="part" :style="inFrame(live.seen.region)"><LiveCanvas /></div>
          <MaskOverlay v-else-if="view.showMask && mask" :path="mask" :width="frame.width" :height="frame.height" />
        </div>
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
        <div v-else-if="draft ?? current.region" class="region" :style="onScreen((draft ?? current.region)!)">
          <span>region {{ (draft ?? current.region)!.width }} × {{ (draft ?? current.region)!.height }}</span>
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
        <button class="plain act" @click="shot.renderSheet('preview')">Render the preview</button>
      </div>
    </div>
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
  font-size: 11px;
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
