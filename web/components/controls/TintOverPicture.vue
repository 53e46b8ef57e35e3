<script setup lang="ts">
/** The picture, or the region of it, with what a glass would make of it in its middle. */
import { shallowRef, useTemplateRef, watch } from 'vue';
import { throughGlass } from '../../../core/tint/over-picture.ts';
import type { Rgb } from '../../../core/tint/stack.ts';
import { drawRender } from '../../picture/render-source.ts';
import { show } from '../../picture/snapshot.ts';
import { useCurrent } from '../../stores/current.ts';

const props = defineProps<{ through: Rgb }>();
const current = useCurrent();
const canvas = useTemplateRef('canvas');
/** Pixels across, and the most of them down. */
const WIDTH = 260;
const HEIGHT = 110;
const picture = shallowRef<ImageData | null>(null);

async function draw(): Promise<void> {
  const { render, region } = current;
  if (!render || render.samplesDone === 0) return;
  try {
    picture.value = await drawRender(render, { part: region ?? render.region, width: WIDTH, height: HEIGHT });
  } catch {
    // What cannot be had now comes with the next change of the render.
  }
}
watch(
  () => [current.render && `${current.render.id} ${Math.floor(current.render.progress * 10)}`, current.region],
  draw,
  { immediate: true },
);
watch([picture, canvas, () => props.through], () => {
  if (!picture.value || !canvas.value) return;
  const { data, width, height } = picture.value;
  const tinted = new ImageData(width, height);
  tinted.data.set(throughGlass(data, width, props.through));
  show(tinted, canvas.value);
});
</script>

<template>
  <figure v-if="picture">
    <canvas ref="canvas" role="img" aria-label="The picture with this glass before its middle"></canvas>
    <figcaption class="dim">{{ current.region ? 'The region' : 'The picture' }}, through it in the middle</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  display: grid;
  justify-items: center;
  gap: 2px;
}
canvas {
  max-width: 100%;
}
</style>
