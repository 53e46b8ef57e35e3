<script setup lang="ts">
/** What lies on the picture: its windows, guides, the region, pins. */
import { computed } from 'vue';
import type { Region } from '../../../core/data/picture.ts';
import { useLook } from '../../stores/look.ts';
import type { Box, Size } from '../../viewer/frame-place.ts';

const props = defineProps<{
  frame: Size;
  region: Region | null;
  /** A rectangle of the frame, in screen pixels. */
  onScreen: (rect: Box) => Box;
}>();
const look = useLook();

const frameBox = computed(() => props.onScreen({ x: 0, y: 0, ...props.frame }));
/** Of the pixels that are stored, where they are not the frame's. */
const dataBox = computed(() => {
  const [d, w] = [look.shownLayer?.dataWindow, look.information?.displayWindow];
  if (!d || !w || (d.minX === w.minX && d.minY === w.minY && d.maxX === w.maxX && d.maxY === w.maxY)) return null;
  const [width, height] = [d.maxX - d.minX + 1, d.maxY - d.minY + 1];
  return props.onScreen({ x: d.minX - w.minX, y: d.minY - w.minY, width, height });
});
const regionBox = computed(() => props.region && props.onScreen(props.region));
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
        const margin = (1 - share) / 2;
        return { x: x + width * margin, y: y + height * margin, width: width * share, height: height * share };
      })
    : [],
);
const pins = computed(() =>
  look.pins.map(({ x, y, text }) => ({ ...props.onScreen({ x, y, width: 1, height: 1 }), text })),
);
</script>

<template>
  <svg class="over" aria-hidden="true">
    <rect v-if="dataBox || look.guides !== 'none'" class="edge" v-bind="frameBox" />
    <rect v-if="dataBox" class="edge dashed" v-bind="dataBox" />
    <line v-for="(line, i) in guideLines" :key="i" class="edge" v-bind="line" />
    <rect v-for="(area, i) in safeAreas" :key="`safe ${i}`" class="edge" v-bind="area" />
    <rect v-if="regionBox" class="region" v-bind="regionBox" />
    <g v-for="(pin, i) in pins" :key="`pin ${i}`">
      <circle class="pin" :cx="pin.x" :cy="pin.y" r="5" />
      <text class="pinned" :x="pin.x + 9" :y="pin.y + 4">{{ pin.text }}</text>
    </g>
  </svg>
</template>

<style scoped>
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
  font-size: var(--small);
  paint-order: stroke;
  stroke: rgb(0 0 0 / 75%);
  stroke-width: 3px;
}
</style>
