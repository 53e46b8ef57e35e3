<script setup lang="ts">
/** On the picture: the place that is asked about, the way to the light that is pointed at, and what stands in it. */
import { computed } from 'vue';
import type { Point } from '../../viewer/frame-place.ts';
import { usePlace } from '../../stores/place.ts';

/** @param screen where a pixel of the frame stands on the screen */
const { screen } = defineProps<{ screen: (x: number, y: number) => Point }>();
const place = usePlace();

const centre = computed(() => screen(place.mark![0] + 0.5, place.mark![1] + 0.5));
const onScreen = ([x, y]: [number, number]) => screen(x / place.scale.x, y / place.scale.y);
const drawn = computed(() => {
  const light = place.shown;
  const own = place.ways.find(({ id }) => id === light?.id);
  if (!light || !own || own.way.length < 2) return null;
  const points = own.way.map(onScreen);
  const met = light.blockers.flatMap(({ name, blocks, share }, k) => {
    const at = own.met[k];
    return at && share > 0.02 ? [{ name, blocks, ...onScreen(at) }] : [];
  });
  return { state: light.state, line: points.map(({ x, y }) => `${x},${y}`).join(' '), met: met.slice(0, 6) };
});
</script>

<template>
  <svg class="place" aria-hidden="true">
    <template v-if="drawn">
      <polyline class="under" :points="drawn.line" />
      <polyline :class="drawn.state" :points="drawn.line" />
      <g v-for="(one, k) in drawn.met" :key="k" :class="one.blocks ? 'blocks' : 'passed'">
        <circle :cx="one.x" :cy="one.y" r="5" />
        <text v-if="k < 2" :x="one.x + 9" :y="one.y + 4">{{ one.name }}</text>
      </g>
    </template>
    <path :d="`M${centre.x - 9},${centre.y}h18M${centre.x},${centre.y - 9}v18`" class="under cross" />
    <path :d="`M${centre.x - 9},${centre.y}h18M${centre.x},${centre.y - 9}v18`" class="cross" />
  </svg>
</template>

<style scoped>
.place {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  fill: none;
  stroke: var(--act);
  stroke-width: 1.5;
}
.under {
  stroke: rgb(0 0 0 / 65%);
  stroke-width: 4;
}
.missing {
  stroke: var(--stop);
  stroke-dasharray: 6 4;
}
.shaded,
.edge {
  stroke: var(--soft);
}
circle {
  stroke-width: 2;
  fill: rgb(0 0 0 / 65%);
}
.passed circle {
  stroke: var(--stop);
}
.blocks circle {
  stroke: var(--text);
}
text {
  font-size: var(--small);
  fill: var(--text);
  stroke: rgb(0 0 0 / 80%);
  stroke-width: 3;
  paint-order: stroke;
}
</style>
