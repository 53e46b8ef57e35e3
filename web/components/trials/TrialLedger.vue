<script setup lang="ts">
/** The shot's memory: every trial, newest first. */
import ContextMenu from 'primevue/contextmenu';
import type { MenuItem } from 'primevue/menuitem';
import { computed, ref, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import type { SweepSummary, TrialSummary } from '../../../core/contracts/events.ts';
import { copyText } from '../../copy-text.ts';
import { canDrop, canKeep, isRunning } from '../../trial-state.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import KeepApartDialog from './KeepApartDialog.vue';
import KeepDialog from './KeepDialog.vue';
import SweepCard from './SweepCard.vue';
import TrialCard from './TrialCard.vue';

const shot = useShot();
const view = useView();
const router = useRouter();
interface Entry {
  key: string;
  trial: TrialSummary | null;
  sweep: SweepSummary | null;
}
/** Trials, and sweeps where the first of their trials stands. */
const entries = computed(() =>
  [...(shot.state?.trials ?? [])].reverse().flatMap((trial): Entry[] => {
    if (trial.sweepId === null) return [{ key: `t${trial.id}`, trial, sweep: null }];
    const isFirst = shot.stepsOf(trial.sweepId)[0].id === trial.id;
    return isFirst ? [{ key: `s${trial.sweepId}`, trial: null, sweep: shot.sweep(trial.sweepId)! }] : [];
  }),
);
const keeping = computed(() => shot.state?.trials.find(({ id }) => id === view.keepingId) ?? null);

const menu = useTemplateRef('menu');
const items = ref<MenuItem[]>([]);
/** What can be done with the trial under the pointer. */
function openMenu(event: MouseEvent, trial: TrialSummary): void {
  const to = { name: 'shot', params: { code: shot.state!.code }, query: { ...view.query, trial: String(trial.id) } };
  const link = () => void copyText(new URL(router.resolve(to).href, window.location.href).href, 'Link copied.');
  items.value = [
    { label: 'Compare before and after', command: () => (view.trialId = trial.id) },
    ...(view.trialId === trial.id ? [{ label: 'Back to the picture', command: () => (view.trialId = null) }] : []),
    { label: 'Use its region', command: () => (view.region = trial.region) },
    { separator: true },
    ...(isRunning(trial) ? [{ label: 'Cancel', command: () => void shot.stopTrial(trial) }] : []),
    ...(canKeep(trial) ? [{ label: 'Keep …', command: () => (view.keepingId = trial.id) }] : []),
    ...(canDrop(trial) ? [{ label: 'Drop', command: () => void shot.dropTrial(trial) }] : []),
    { label: 'Copy its title', command: () => void copyText(`Trial ${trial.number}: ${trial.title}`, 'Copied.') },
    { label: 'Copy link to it', command: link },
  ];
  menu.value!.show(event);
}
</script>

<template>
  <section class="ledger" aria-label="Trials">
    <div class="head">
      <h2>Ledger</h2>
      <span class="dim">○ predicted</span>
      <span class="dim">● measured</span>
    </div>
    <ul v-if="entries.length" class="cards">
      <template v-for="{ key, trial, sweep } in entries" :key="key">
        <SweepCard v-if="sweep" :sweep="sweep" />
        <TrialCard
          v-else
          :trial="trial!"
          @keep="view.keepingId = trial!.id"
          @contextmenu.prevent="openMenu($event, trial!)"
        />
      </template>
    </ul>
    <p v-else class="dim none">
      No trials yet. A trial renders one region twice with the same random numbers, with and without a remedy, and shows
      measured next to predicted. Start one with “Try here” on a finding’s remedy, or with T.
    </p>
    <ContextMenu ref="menu" :model="items" />
    <KeepApartDialog v-if="keeping?.alonePatch" :trial="keeping" @closed="view.keepingId = null" />
    <KeepDialog v-else-if="keeping" :trial="keeping" @closed="view.keepingId = null" />
  </section>
</template>

<style scoped>
.ledger {
  height: 100%;
  background: var(--panel);
  border-top: 1px solid var(--line);
  display: grid;
  grid-template-columns: 96px minmax(0, 1fr);
}
.head {
  padding: 10px 12px;
  display: flex;
  flex-direction: column;
  gap: 4px;
  font-size: var(--small);
  white-space: nowrap;
  border-right: 1px solid var(--line);
}
.cards {
  display: flex;
  gap: 10px;
  padding: 8px 12px;
  overflow: auto hidden;
}
.none {
  padding: 12px 16px;
  max-width: 720px;
}
</style>
