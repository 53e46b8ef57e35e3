<script setup lang="ts">
/** A mask as a hatch over the picture, so that the picture stays visible under it. */
import { ref, watch } from 'vue';
import { getBytes } from '../../remote/client.ts';

const props = defineProps<{
  /** Address of the mask: a byte a pixel. */
  path: string;
  width: number;
  height: number;
}>();
const canvas = ref<HTMLCanvasElement | null>(null);

async function draw(): Promise<void> {
  const { path, width, height } = props;
  if (!canvas.value) return;
  let mask: Uint8Array;
  try {
    mask = new Uint8Array(await getBytes(path));
  } catch {
    return;
  }
  if (path !== props.path || !canvas.value || mask.length !== width * height) return;
  // Twice the picture's pixels, so that the lines are finer than them.
  const image = new ImageData(width * 2, height * 2);
  for (let y = 0; y < height * 2; y++)
    for (let x = 0; x < width * 2; x++)
      if (mask[(y >> 1) * width + (x >> 1)] && (x + y) % 8 < 2)
        image.data.set([214, 220, 92, 190], (y * width * 2 + x) * 4);
  canvas.value.width = width * 2;
  canvas.value.height = height * 2;
  canvas.value.getContext('2d')!.putImageData(image, 0, 0);
}

watch(() => [props.path, props.width, props.height], draw);
watch(canvas, draw);
</script>

<template>
  <canvas ref="canvas" class="mask" width="1" height="1" aria-hidden="true"></canvas>
</template>

<style scoped>
.mask {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
</style>
