<script setup lang="ts">
/** Which picture is up, how large, and how a region is set. */
import { computed } from 'vue';
import { useCurrent } from '../../stores/current.ts';
import { useLive } from '../../stores/live.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';

defineProps<{ scale: number }>();
const emit = defineEmits<{ fit: [] }>();
const isDrawing = defineModel<boolean>('drawing', { required: true });
const shot = useShot();
const view = useView();
const live = useLive();
const current = useCurrent();

/** The last few base renders, newest first. */
const tabs = computed(() => shot.bases.slice(-4).reverse());

/** A contact sheet is up. */
const isSheet = computed(() => current.sweep !== null && !current.trial);

/** Twice what it was to reach, or that again if it was stopped before. */
const more = computed(() => {
  const render = current.render;
  if (!render) return 0;
  return Math.min(65536, render.state === 'done' ? render.samples * 2 : render.samples);
});

function show(id: number): void {
  view.renderId = id === shot.newestBase?.id ? null : id;
  view.trialId = null;
  view.sweepId = null;
  view.findingId = null;
}
</script>

<template>
  <div class="tabs">
    <button
      v-for="render in tabs"
      :key="render.id"
      class="bare source"
      :class="{ on: render.id === current.render?.id && !current.trial && !current.sweep }"
      :aria-pressed="render.id === current.render?.id && !current.trial && !current.sweep"
      @click="show(render.id)"
    >
      {{ render.sheet === 'preview' ? 'Preview' : 'Final' }}, version {{ render.version }}
      <span v-if="shot.isOlder(render)" class="tag" title="The shot has changed since this was rendered">older</span>
    </button>
    <button
      v-if="current.sweep"
      class="bare source"
      :class="{ on: !current.trial }"
      :aria-pressed="!current.trial"
      @click="current.trial ? (view.trialId = null) : (view.sweepId = null)"
    >
      Sweep: {{ current.sweep.title }}
      <span v-if="!current.trial" class="dim" title="Back to the picture">×</span>
    </button>
    <button v-if="current.trial" class="bare source on" aria-pressed="true" @click="view.trialId = null">
      Trial {{ current.trial.number }} <span class="dim" title="Back to the picture">×</span>
    </button>
    <span class="gap"></span>
    <button
      v-if="current.render?.warnings.length"
      v-tooltip.bottom="current.render.warnings.join(' ')"
      class="bare warned"
      :aria-label="`Unusual: ${current.render.warnings.join(' ')}`"
    >
      {{ current.render.warnings.length }} unusual
    </button>
    <span v-if="current.render && !isSheet" class="dim num">
      {{ current.render.width }} × {{ current.render.height }} · {{ Math.round(scale * 100) }} %
    </span>
    <button
      v-if="current.render && current.render.state !== 'active' && !current.trial && !isSheet"
      class="flat"
      :title="`Goes on to ${more} samples a pixel, with the bits of one long render`"
      @click="shot.continueRender(current.render.id, more)"
    >
      More samples
    </button>
    <button
      v-if="!isSheet && !current.trial"
      class="flat"
      :class="{ on: live.isOn }"
      :aria-pressed="live.isOn"
      :disabled="live.obstacle !== ''"
      :title="live.obstacle || 'Render the region in this browser while values are set'"
      @click="live.isOn ? live.end() : (live.isOn = true)"
    >
      Live
    </button>
    <button v-if="!isSheet" class="flat" @click="emit('fit')">Fit</button>
    <button
      v-if="!isSheet"
      class="flat"
      :class="{ on: isDrawing }"
      :aria-pressed="isDrawing"
      @click="isDrawing = !isDrawing"
    >
      Region
    </button>
    <button v-if="view.region && !isSheet" class="flat" @click="view.region = null">Its own region</button>
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 12px;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
  font-size: 12px;
  white-space: nowrap;
  overflow: hidden;
}
.source {
  color: var(--dim);
  padding: 6px 0;
}
.warned {
  color: var(--care);
  border-bottom: 1px dotted;
}
.source:hover {
  color: var(--text);
}
.source.on {
  color: var(--text);
  box-shadow: 0 2px var(--act);
}
</style>
