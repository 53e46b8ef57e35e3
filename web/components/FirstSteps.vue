<script setup lang="ts">
/** The first way through the demo: five steps on the jar shelf, ticked off as they are done. Closed, it stays closed. */
import { Check, X } from '@lucide/vue';
import Button from 'primevue/button';
import { computed, ref, watch } from 'vue';
import { useCurrent } from '../stores/current.ts';
import { usePreferences } from '../stores/preferences.ts';
import { useShot } from '../stores/shot.ts';
import { useView } from '../stores/view.ts';

const shot = useShot();
const view = useView();
const current = useCurrent();
const preferences = usePreferences();

/** The wipe of a trial was moved since the page was opened. */
const hasWiped = ref(false);
watch(
  () => view.wipe,
  () => (hasWiped.value ||= current.trial !== null),
);
const trials = computed(() => shot.state?.trials.filter(({ sweepId }) => sweepId === null) ?? []);
const isKept = computed(() => trials.value.some(({ verdict }) => verdict === 'keep'));
const steps = computed(() => [
  { told: 'The first finding comes by itself: what is wrong, and why', isDone: current.findings.length > 0 },
  { told: 'Try here: the region is rendered with and without the first remedy', isDone: trials.value.length > 0 },
  {
    told: 'Drag the line in the picture: before on its left, after on its right',
    isDone: hasWiped.value || isKept.value,
  },
  { told: 'Keep the trial: the shot gets a new version', isDone: isKept.value },
  { told: 'Render version 2, and see the finding resolved', isDone: (current.render?.version ?? 1) > 1 },
]);
const next = computed(() => steps.value.findIndex(({ isDone }) => !isDone));
const isShown = computed(() => shot.state?.code === 'HA-010' && !preferences.isGuideClosed);
</script>

<template>
  <aside v-if="isShown" class="first" aria-label="First steps">
    <p class="head">
      <b>First steps</b>
      <RouterLink :to="{ name: 'help', params: { name: 'guide/first-steps' } }" class="dim">in full</RouterLink>
      <span class="gap"></span>
      <Button
        unstyled
        class="bare"
        aria-label="Close the first steps for good"
        title="Close for good"
        @click="preferences.isGuideClosed = true"
        ><X :size="14" aria-hidden="true"
      /></Button>
    </p>
    <ol>
      <li v-for="(step, i) in steps" :key="i" :class="{ done: step.isDone, next: i === next }">
        <Check v-if="step.isDone" :size="12" aria-label="Done:" /><span v-else class="num" aria-hidden="true">{{
          i + 1
        }}</span>
        {{ step.told }}
      </li>
    </ol>
    <p v-if="next === -1" class="soft">That was the whole way: measure, cause, remedy, trial, keep.</p>
  </aside>
</template>

<style scoped>
.first {
  background: var(--up);
  border-radius: 3px;
  padding: 6px 10px;
  font-size: var(--small);
}
.head {
  display: flex;
  gap: 8px;
  align-items: center;
}
li {
  display: grid;
  grid-template-columns: 14px 1fr;
  gap: 6px;
  align-items: baseline;
  color: var(--dim);
}
li.next {
  color: var(--text);
}
</style>
