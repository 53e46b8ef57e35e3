<script setup lang="ts">
/**
 * One pass of a render, drawn at its region's size in pixels. While the render goes on, the newest picture
 * is fetched as soon as the one before is on screen.
 */
import { onBeforeUnmount, ref, watch } from 'vue';
import type { RenderSummary } from '../../../core/contracts/events.ts';
import { drawRender } from '../../picture/render-source.ts';
import { show } from '../../picture/snapshot.ts';
import { useShot } from '../../stores/shot.ts';

const props = defineProps<{
  render: RenderSummary;
  pass: string;
  exposure: number;
  gamma: number;
  /** Value at the top of a one-channel pass's scale. */
  top: number;
}>();
const emit = defineEmits<{ failed: [message: string]; drawn: [] }>();

/** Fetches of a running render are this far apart at least, and take at most a third of the time. */
const PAUSE_MS = 700;
const REST = 3;
const shot = useShot();
const canvas = ref<HTMLCanvasElement | null>(null);
let fetching = false;
let fetchedAt = 0;
let took = 0;
let timer: ReturnType<typeof setTimeout> | null = null;
let gone = false;
/** What is on the canvas. */
let seen = '';
const wanted = () => `${props.render.id} ${props.render.revision} ${props.pass}`;

async function refresh(): Promise<void> {
  timer = null;
  if (fetching || gone || props.render.samplesDone === 0) return;
  const now = wanted();
  fetching = true;
  fetchedAt = Date.now();
  try {
    await draw();
    took = Date.now() - fetchedAt;
    seen = now;
  } catch (error) {
    emit('failed', (error as Error).message);
  } finally {
    fetching = false;
    if (wanted() !== now) later();
  }
}

function later(): void {
  const isOther = seen.split(' ')[0] !== String(props.render.id) || seen.split(' ')[2] !== props.pass;
  timer ??= setTimeout(
    () => void refresh(),
    isOther ? 0 : Math.max(0, fetchedAt + Math.max(PAUSE_MS, REST * took) - Date.now()),
  );
}

let drawing = 0;
async function draw(): Promise<void> {
  const turn = ++drawing;
  const { render, pass, exposure, gamma, top } = props;
  const image = await drawRender(render, { document: shot.state?.document, pass, view: { exposure, gamma }, top });
  // Another pass or exposure was asked for meanwhile: its picture is on its way.
  if (!image || !canvas.value || turn !== drawing) return;
  show(image, canvas.value);
  emit('drawn');
}

watch(wanted, later, { immediate: true });
watch(() => `${props.exposure} ${props.gamma} ${props.top}`, () => void draw().catch(() => {})); // prettier-ignore
onBeforeUnmount(() => {
  gone = true;
  if (timer) clearTimeout(timer);
});
</script>

<template>
  <canvas
    ref="canvas"
    class="pixels"
    width="1"
    height="1"
    role="img"
    :aria-label="`${pass} of render ${render.id}`"
  ></canvas>
</template>
