<script setup lang="ts">
/** One sweep of the ledger: its steps small, and how far it is. */
import Button from 'primevue/button';
import { computed } from 'vue';
import type { SweepSummary } from '../../../core/contracts/events.ts';
import { percent } from '../../format.ts';
import { useCurrent } from '../../stores/current.ts';
import { useShot } from '../../stores/shot.ts';
import { sweepProgress } from '../../stores/sweep-progress.ts';
import { useView } from '../../stores/view.ts';
import PictureThumb from '../shared/PictureThumb.vue';

const props = defineProps<{ sweep: SweepSummary }>();
const shot = useShot();
const view = useView();
const current = useCurrent();

const steps = computed(() => shot.stepsOf(props.sweep.id));
const isUp = computed(() => current.sweep?.id === props.sweep.id);
const progress = computed(() => sweepProgress(steps.value, shot.renderOf));
const kept = computed(() => steps.value.find((t) => t.verdict === 'keep'));
const state = computed(() => {
  if (kept.value) return `${kept.value.step} kept`;
  if (progress.value.isRunning) return percent(progress.value.share);
  const measured = steps.value.filter((t) => t.state === 'done').length;
  return measured < steps.value.length
    ? `${measured} of ${steps.value.length}`
    : `${steps.value[0].sheet}, v${steps.value[0].version}`;
});

function open(): void {
  view.trialId = null;
  view.sweepId = props.sweep.id;
}
</script>

<template>
  <li class="ledger-card rows" :class="{ on: isUp }">
    <p class="title">
      <b :title="sweep.title">Sweep · {{ sweep.title }}</b>
      <span :class="{ kept }" class="state">{{ state }}</span>
    </p>
    <Button
      unstyled
      class="bare steps"
      :aria-pressed="isUp"
      :title="`Contact sheet of ${steps.length} steps`"
      @click="open"
    >
      <span v-for="step in steps" :key="step.id" class="step">
        <PictureThumb v-if="shot.renderOf(step.afterRenderId)" :render="shot.renderOf(step.afterRenderId)!" />
        <small class="num">{{ step.step }}</small>
      </span>
    </Button>
    <p class="foot">
      <span class="dim num">{{ steps[0].region.width }} × {{ steps[0].region.height }} px</span>
      <span class="gap"></span>
      <Button v-if="progress.isRunning" severity="secondary" variant="text" @click="shot.stopSweep(sweep)"
        >Cancel</Button
      >
      <Button v-else severity="secondary" variant="outlined" @click="open">Contact sheet</Button>
    </p>
  </li>
</template>

<style scoped>
.rows {
  grid-template-rows: auto minmax(0, 1fr) auto;
}
.steps {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  gap: 3px;
  align-items: start;
  padding-top: 4px;
  overflow: hidden;
}
.step {
  display: grid;
  min-width: 0;
}
.step :deep(canvas) {
  height: 38px;
  object-fit: cover;
}
.step small {
  font-size: var(--small);
  text-align: center;
  overflow: hidden;
  text-overflow: ellipsis;
  color: var(--soft);
}
</style>
