<script setup lang="ts">
/** The newest picture of the live look, over its region. */
import { onMounted, ref, watch } from 'vue';
import { show } from '../../picture/snapshot.ts';
import { useLive } from '../../stores/live.ts';

const live = useLive();
const canvas = ref<HTMLCanvasElement | null>(null);

function draw(): void {
  const image = live.seen?.image;
  if (!image || !canvas.value) return;
  show(image, canvas.value);
}
watch(() => live.seen, draw);
onMounted(draw);
</script>

<template>
  <canvas
    ref="canvas"
    class="pixels"
    width="1"
    height="1"
    role="img"
    aria-label="The region with the values that are set, rendered in this browser"
    :data-first-pixels="live.seen ? Math.round(live.seen.first) : ''"
  ></canvas>
</template>
