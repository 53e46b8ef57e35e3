<script setup lang="ts">
/** Lines in a plane: UV islands with the seams that stand open. A click goes to where the nearest of those is seen; the drawing is saved to paint over. */
import Button from 'primevue/button';
import { computed } from 'vue';
import type { Evidence } from '../../../../core/contracts/finding.ts';
import { saveFile } from '../../../remote/save-file.ts';

const props = defineProps<{ evidence: Extract<Evidence, { kind: 'lines' }> }>();
const emit = defineEmits<{ place: [x: number, y: number] }>();

/** Sides of the image that is saved, pixels a unit. */
const SAVED = 2048;
const MOST = 8192;

const box = computed(() => {
  const all = props.evidence.groups.flatMap(({ lines }) => lines);
  const range = (from: number) => {
    let [low, high] = [0, 1];
    for (let i = from; i < all.length; i += 2) {
      low = Math.min(low, Math.floor(all[i] + 1e-4));
      high = Math.max(high, Math.ceil(all[i] - 1e-4));
    }
    return [low, high];
  };
  const [[left, right], [low, high]] = [range(0), range(1)];
  return { left, low, width: right - left, height: high - low };
});
/** Whole numbers of the plane: tiles of UV space. */
const units = computed(() => {
  const { left, low, width, height } = box.value;
  return Array.from({ length: width * height }, (_, k) => ({ x: left + (k % width), y: low + Math.floor(k / width) }));
});
const top = computed(() => box.value.low + box.value.height);
const path = (lines: number[], scale = 1, x0 = 0, y0 = 0): string => {
  let text = '';
  for (let i = 0; i < lines.length; i += 4)
    text += `M${(lines[i] - x0) * scale} ${(y0 - lines[i + 1]) * scale}L${(lines[i + 2] - x0) * scale} ${(y0 - lines[i + 3]) * scale}`;
  return text;
};
const shown = computed(() => props.evidence.groups.filter(({ lines }) => lines.length > 0));

function jump(event: MouseEvent) {
  const rect = (event.currentTarget as SVGElement).getBoundingClientRect();
  const [x, y] = [box.value.left + ((event.clientX - rect.left) / rect.width) * box.value.width, top.value - ((event.clientY - rect.top) / rect.height) * box.value.height]; // prettier-ignore
  let [best, least] = [[0, 0], Infinity];
  for (const { lines, pixels } of props.evidence.groups)
    for (let i = 0; pixels && i < lines.length; i += 4) {
      const far = Math.hypot((lines[i] + lines[i + 2]) / 2 - x, (lines[i + 1] + lines[i + 3]) / 2 - y);
      if (far < least) [least, best] = [far, [pixels[i / 2], pixels[i / 2 + 1]]];
    }
  if (least < Infinity) emit('place', best[0], best[1]);
}

const COLOURS = { plain: '#9a9a9a', bad: '#ff5a4d' };

async function save() {
  const { left, width, height } = box.value;
  const scale = Math.min(SAVED, MOST / Math.max(width, height));
  const canvas = new OffscreenCanvas(width * scale, height * scale);
  const context = canvas.getContext('2d')!;
  for (const { lines, tone } of props.evidence.groups) {
    context.strokeStyle = COLOURS[tone];
    context.lineWidth = tone === 'bad' ? 3 : 1.5;
    context.stroke(new Path2D(path(lines, scale, left, top.value)));
  }
  saveFile('uv-islands.png', await canvas.convertToBlob({ type: 'image/png' }));
}
</script>

<template>
  <figure class="lines">
    <figcaption>
      <span class="dim">{{ evidence.title }}</span>
      <Button label="Save as PNG" size="small" text title="Transparent, to paint over" @click="save" />
    </figcaption>
    <svg
      :viewBox="`${box.left} ${-top} ${box.width} ${box.height}`"
      :style="{ aspectRatio: `${box.width} / ${box.height}`, maxWidth: `${22 * box.width}em` }"
      role="img"
      :aria-label="evidence.title"
      @click="jump"
    >
      <rect v-for="unit in units" :key="`${unit.x} ${unit.y}`" :x="unit.x" :y="-unit.y - 1" width="1" height="1" />
      <path v-for="group in shown" :key="group.label" :class="group.tone" :d="path(group.lines)" />
    </svg>
    <span v-for="group in shown" :key="group.label" class="key"
      ><i :style="{ background: COLOURS[group.tone] }"></i>{{ group.label }}</span
    >
  </figure>
</template>

<style scoped>
.lines {
  margin: 0;
  font-size: var(--small);
}
figcaption {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
svg {
  display: block;
  width: 100%;
  background: #1c1c1c;
  cursor: crosshair;
}
rect {
  fill: none;
  stroke: #4a4a4a;
  stroke-width: 1px;
  vector-effect: non-scaling-stroke;
}
path {
  fill: none;
  stroke-width: 1px;
  vector-effect: non-scaling-stroke;
}
.plain {
  stroke: #9a9a9a;
}
.bad {
  stroke: #ff5a4d;
  stroke-width: 2.5px;
}
.key {
  display: inline-flex;
  gap: 5px;
  align-items: center;
  margin-right: 12px;
}
i {
  width: 14px;
  height: 3px;
}
</style>
