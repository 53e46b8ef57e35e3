<script setup lang="ts">
/** A render as a small picture; redrawn as it goes on. */
import { ref, watch } from 'vue';
import type { RenderSummary } from '../../core/contracts/events.ts';
import { lookOf } from '../../core/render/film/pass-list.ts';
import { PLAIN_VIEW } from '../../core/picture/view.ts';
import { pictures } from '../picture/pictures.ts';

const props = defineProps<{ render: RenderSummary; pass?: string }>();
const canvas = ref<HTMLCanvasElement | null>(null);
let busy = false;

async function draw(): Promise<void> {
  const { render, pass = 'beauty' } = props;
  if (busy || !canvas.value || render.samplesDone === 0) return;
  busy = true;
  try {
    const known = pictures.known(render.id, pass);
    if (!known || known.revision !== render.revision) await pictures.load(render.id, pass);
    const image = await pictures.draw(render.id, pass, lookOf(pass), PLAIN_VIEW, 1);
    if (!image || !canvas.value) return;
    canvas.value.width = image.width;
    canvas.value.height = image.height;
    canvas.value.getContext('2d')!.putImageData(image, 0, 0);
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
  <canvas ref="canvas" class="thumb" width="16" height="9" aria-hidden="true"></canvas>
</template>

<style scoped>
.thumb {
  display: block;
  width: 100%;
  background: var(--stage);
}
</style>
