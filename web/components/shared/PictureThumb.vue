<script setup lang="ts">
/** A render as a small picture; redrawn as it goes on. */
import { ref, watch } from 'vue';
import type { RenderSummary } from '../../../core/contracts/events.ts';
import { drawRender } from '../../picture/render-source.ts';
import { show } from '../../picture/snapshot.ts';

const props = defineProps<{ render: RenderSummary; pass?: string }>();
const canvas = ref<HTMLCanvasElement | null>(null);
/** Pixels across: sharp on a screen of twice the density. */
const WIDTH = 320;
let busy = false;

async function draw(): Promise<void> {
  const { render, pass } = props;
  if (busy || !canvas.value || render.samplesDone === 0) return;
  busy = true;
  try {
    const image = await drawRender(render, { pass, width: Math.min(WIDTH, render.region.width) });
    if (!image || !canvas.value) return;
    show(image, canvas.value);
  } catch {
    // A thumbnail that cannot be had now comes with the next change.
  } finally {
    busy = false;
  }
}

// A render that goes on is redrawn at each tenth of it, not at each tile.
watch(() => `${props.render.id} ${props.render.state} ${Math.floor(props.render.progress * 10)}`, draw);
watch(canvas, draw);
</script>

<template>
  <!-- As high as the picture that is to come: a list that grew under a menu would scroll, and the menu close. -->
  <canvas
    ref="canvas"
    class="thumb"
    width="16"
    height="9"
    :style="{ aspectRatio: `${render.region.width} / ${render.region.height}` }"
    aria-hidden="true"
  ></canvas>
</template>

<style scoped>
.thumb {
  display: block;
  width: 100%;
  background: var(--stage);
}
</style>
