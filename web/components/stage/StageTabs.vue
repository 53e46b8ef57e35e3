<script setup lang="ts">
/** Which picture is up, how large, and how a region is set. */
import { X } from '@lucide/vue';
import Tabs from 'primevue/tabs';
import TabList from 'primevue/tablist';
import Tab from 'primevue/tab';
import ToggleButton from 'primevue/togglebutton';
import Button from 'primevue/button';
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

/** The last few base renders, newest first; fewer where a trial or a sweep has a tab as well. */
const tabs = computed(() => shot.bases.slice(current.trial || current.sweep ? -2 : -3).reverse());

/** A contact sheet is up. */
const isSheet = computed(() => current.sweep !== null && !current.trial);

/** Twice what it was to reach, or that again if it was stopped before. */
const more = computed(() => {
  const render = current.render;
  if (!render) return 0;
  return Math.min(65536, render.state === 'done' ? render.samples * 2 : render.samples);
});

/** Which tab is chosen: a trial stands before its sweep, both before the picture they are of. */
const shown = computed(() => {
  if (current.trial) return 'trial';
  return current.sweep ? 'sweep' : `render ${current.render?.id}`;
});
function show(tab: string): void {
  if (tab === 'trial') return;
  view.trialId = null;
  if (tab === 'sweep') return;
  const id = Number(tab.split(' ')[1]);
  view.renderId = id === shot.newestBase?.id ? null : id;
  view.sweepId = null;
  view.findingId = null;
}
</script>

<template>
  <div class="tabs">
    <Tabs :value="shown" :show-navigators="false" class="pictures" @update:value="show(String($event))">
      <TabList aria-label="Picture">
        <Tab v-for="render in tabs" :key="render.id" :value="`render ${render.id}`" aria-controls="stage">
          {{ render.sheet === 'preview' ? 'Preview' : 'Final' }}, version {{ render.version }}
          <span v-if="shot.isOlder(render)" class="tag" title="The shot has changed since this was rendered"
            >older</span
          >
        </Tab>
        <Tab v-if="current.sweep" value="sweep" aria-controls="stage">Sweep: {{ current.sweep.title }}</Tab>
        <Tab v-if="current.trial" value="trial" aria-controls="stage">Trial {{ current.trial.number }}</Tab>
      </TabList>
    </Tabs>
    <Button
      v-if="current.trial || current.sweep"
      severity="secondary"
      variant="text"
      class="leave"
      title="Back to the picture (Esc)"
      :aria-label="`Close ${current.trial ? `trial ${current.trial.number}` : 'the sweep'}`"
      @click="current.trial ? (view.trialId = null) : (view.sweepId = null)"
    >
      <X :size="14" aria-hidden="true" />
    </Button>
    <Button
      v-if="current.render?.warnings.length"
      v-tooltip.bottom="current.render.warnings.join(' ')"
      severity="warn"
      variant="text"
      :aria-label="`Unusual: ${current.render.warnings.join(' ')}`"
    >
      {{ current.render.warnings.length }} unusual
    </Button>
    <span v-if="current.render && !isSheet" class="dim num size" :class="{ spare: view.region }">
      {{ current.render.width }} × {{ current.render.height }} · {{ Math.round(scale * 100) }} %
    </span>
    <Button
      v-if="current.render && current.render.state !== 'active' && !current.trial && !isSheet"
      severity="secondary"
      variant="text"
      :title="`Continues to ${more} samples per pixel, bit for bit one long render`"
      @click="shot.continueRender(current.render.id, more)"
    >
      More samples
    </Button>
    <ToggleButton
      v-if="!isSheet && !current.trial"
      :model-value="live.isOn"
      on-label="Live"
      off-label="Live"
      :disabled="live.obstacle !== ''"
      :title="live.obstacle || 'Render the region in this browser while you change values (E)'"
      @update:model-value="live.isOn ? live.end() : (live.isOn = true)"
    />
    <ToggleButton
      v-if="!isSheet"
      v-model="view.isStaged"
      on-label="Stage"
      off-label="Stage"
      title="The scene from outside, beside the picture (Z)"
    />
    <ToggleButton v-if="!isSheet" v-model="isDrawing" on-label="Region" off-label="Region" title="Draw a region (G)" />
    <Button
      v-if="view.region && !isSheet"
      severity="secondary"
      variant="text"
      title="Back to the finding's region"
      @click="view.region = null"
      >Reset region</Button
    >
    <Button v-if="!isSheet" severity="secondary" variant="text" title="Fit the picture (F)" @click="emit('fit')"
      >Fit</Button
    >
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  align-items: center;
  gap: 6px;
  padding-right: 8px;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
  font-size: var(--small);
  white-space: nowrap;
  overflow: hidden;
  container-type: inline-size;
}
/* The name of what is shown goes before its size. */
@container (max-width: 720px) {
  .spare {
    display: none;
  }
}
@container (max-width: 560px) {
  .size {
    display: none;
  }
}
.pictures {
  min-width: 0;
  flex: 1 1 0;
}
.leave {
  padding-inline: 0.3rem;
}
</style>
