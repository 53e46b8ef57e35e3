<script setup lang="ts">
/** Which shot and version, where its work stands, and what is running. */
import { Redo2, Undo2 } from '@lucide/vue';
import ProgressBar from 'primevue/progressbar';
import Button from 'primevue/button';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { RenderSummary } from '../../core/contracts/events.ts';
import { duration, percent, tellPreflight } from '../format.ts';
import { useCurrent } from '../stores/current.ts';
import { useShot } from '../stores/shot.ts';
import { useCommands, type Command } from '../stores/commands.ts';
import { sweepProgress } from '../stores/sweep-progress.ts';
import { useView } from '../stores/view.ts';
import { isRunning } from '../trial-state.ts';
import { useWorkDone } from '../work-done.ts';
import PageMenu from './PageMenu.vue';

const emit = defineEmits<{ keys: [] }>();
const route = useRoute();
const router = useRouter();
const shot = useShot();
const view = useView();
const current = useCurrent();

/** Of the render: what preflight warns of is counted at Intake. */
const open = computed(() => current.findings.filter((f) => f.aside === null && f.renderId !== null).length);
const kept = computed(() => shot.state?.trials.filter((t) => t.verdict === 'keep').length ?? 0);
const waiting = computed(
  () => shot.state?.trials.filter((t) => t.state === 'done' && t.verdict === null && t.sweepId === null).length ?? 0,
);

const atIntake = computed(() => route.name === 'intake');
const atLook = computed(() => route.name === 'look');
const checked = computed(() => tellPreflight(shot.state?.preflight));
/** Causes and trials stand around the render. */
function toPicture(): void {
  if (route.name !== 'shot') void router.push({ name: 'shot', params: { code: shot.state!.code }, query: view.query });
}

type Station = { name: string; told: string; state: 'done' | 'here' | 'open'; go: () => void };
const stations = computed<Station[]>(() => {
  const render = current.render;
  const looked = render?.state === 'done';
  const examined = render?.examined === 'done';
  const atTrial = current.trial !== null;
  const around: Station[] = [
    {
      name: 'Causes',
      told: examined
        ? open.value
          ? `${open.value} open`
          : 'none open'
        : render?.examined === 'waiting'
          ? `${render.looked.length} of ${render.looked.length + render.toLook.length}`
          : '',
      state: examined ? (open.value && !atTrial ? 'here' : 'done') : 'open',
      go: () => {
        view.trialId = null;
        view.showMask = true;
        view.panel = 'findings';
      },
    },
    {
      name: 'Trials',
      told: waiting.value ? `${waiting.value} to decide` : kept.value ? `${kept.value} kept` : '',
      state: atTrial ? 'here' : kept.value ? 'done' : 'open',
      go: () => {
        const last = shot.state?.trials.at(-1);
        if (last) view.trialId = last.id;
      },
    },
  ];
  const preflight = shot.state?.preflight;
  return [
    {
      name: 'Intake',
      told: checked.value.split(',')[0],
      state: atIntake.value ? 'here' : preflight?.state === 'done' && preflight.stop === 0 ? 'done' : 'open',
      go: () => void router.push({ name: 'intake', params: { code: shot.state!.code } }),
    },
    {
      name: 'Look',
      told: render ? (looked ? `${render.samples} samples` : percent(render.progress)) : 'no render',
      state: atLook.value ? 'here' : looked ? 'done' : 'open',
      go: () => void router.push({ name: 'look', params: { code: shot.state!.code } }),
    },
    ...around.map((station) => ({
      ...station,
      state: route.name !== 'shot' && station.state === 'here' ? ('open' as const) : station.state,
      go: () => {
        station.go();
        toPicture();
      },
    })),
  ];
});

/** Trials first: somebody waits for them. The two sides of one are one thing to wait for. */
const job = computed(() => {
  const trial = shot.state?.trials.findLast(isRunning);
  const sweep = shot.sweep(trial?.sweepId ?? null);
  if (sweep) {
    const { share } = sweepProgress(shot.stepsOf(sweep.id), shot.renderOf);
    return {
      key: `sweep ${sweep.id}`,
      what: share > 0 ? `sweep: ${sweep.title}` : `predicting sweep: ${sweep.title}`,
      progress: share,
      stop: () => shot.stopSweep(sweep),
    };
  }
  if (trial) {
    const sides = [shot.renderOf(trial.beforeRenderId), shot.renderOf(trial.afterRenderId)].filter((r) => r !== null);
    return {
      key: `trial ${trial.id}`,
      what: trial.state === 'predicting' ? `predicting trial ${trial.number}` : `trial ${trial.number}`,
      progress: sides.length ? work(sides) : 0,
      stop: () => shot.stopTrial(trial),
    };
  }
  const render = shot.running.find((r) => r.purpose === 'base');
  if (render)
    return {
      key: `render ${render.id}`,
      what: `${render.sheet} render`,
      progress: render.progress,
      stop: () => shot.stopRender(render.id),
    };
  const frame = shot.running.find((r) => r.range !== null);
  if (frame) {
    const own = shot.state!.renders.filter((r) => r.range === frame.range);
    return {
      key: `range ${frame.range}`,
      what: `frames: ${own.filter((r) => r.state === 'done').length} of ${own.length} done`,
      progress: work(own),
      stop: () => shot.stopFrames(frame.range!),
    };
  }
  const examined = shot.state?.renders.findLast((r) => r.examined === 'waiting');
  if (examined)
    return {
      key: `examination ${examined.id}`,
      what: `examination of the ${examined.sheet}`,
      progress: examined.looked.length / (examined.looked.length + examined.toLook.length),
      stop: () => shot.stopExamination(examined.id),
    };
  return null;
});
/** Share of all samples of some renders that are done. */
function work(sides: RenderSummary[]): number {
  const all = sides.reduce((sum, r) => sum + r.samples, 0);
  return sides.reduce((sum, r) => sum + r.progress * r.samples, 0) / all;
}

/** Pace over the last ten seconds that this page saw. */
const seen = ref<{ at: number; progress: number }[]>([]);
watch(
  () => [job.value?.key, job.value?.progress] as const,
  ([key, progress], before) => {
    if (key !== before?.[0]) seen.value = [];
    if (progress === undefined) return;
    const now = performance.now();
    seen.value = [...seen.value.filter((s) => now - s.at < 10_000), { at: now, progress }];
  },
);
const left = computed(() => {
  const [first] = seen.value;
  const last = seen.value.at(-1);
  if (!first || !last || last.at - first.at < 1500 || last.progress <= first.progress) return null;
  return duration(((1 - last.progress) * (last.at - first.at)) / 1000 / (last.progress - first.progress));
});
useCommands().provide(() => stations.value.map(({ name, told, go }): Command => ({ id: `station ${name}`, group: 'Go to', name, detail: told, run: go }))); // prettier-ignore
useWorkDone(computed(() => job.value?.what ?? null));
</script>

<template>
  <header v-if="shot.state" class="top">
    <div class="where">
      <RouterLink to="/" class="back" title="All shots">Shots</RouterLink>
      <h1 :title="`${shot.state.code} ${shot.state.name}`">
        {{ shot.state.code }} <span class="soft">{{ shot.state.name }}</span>
      </h1>
      <span class="dim num">frame {{ shot.state.document.frame }} · version {{ shot.state.head.number }}</span>
      <Button
        severity="secondary"
        variant="text"
        aria-label="Undo"
        :disabled="!shot.state.undo"
        :title="shot.state.undo ? `Undo: ${shot.state.head.reason} (Ctrl+Z)` : 'Nothing to undo'"
        @click="shot.undo()"
      >
        <Undo2 :size="15" aria-hidden="true" />
      </Button>
      <Button
        severity="secondary"
        variant="text"
        aria-label="Redo"
        :disabled="!shot.state.redo"
        :title="shot.state.redo ? `Redo: ${shot.state.redo.reason} (Ctrl+Shift+Z)` : 'Nothing to redo'"
        @click="shot.redo()"
      >
        <Redo2 :size="15" aria-hidden="true" />
      </Button>
    </div>
    <nav aria-label="Stations">
      <ol class="stations">
        <li v-for="station in stations" :key="station.name" :class="station.state">
          <Button
            unstyled
            class="bare"
            :aria-current="station.state === 'here' ? 'step' : undefined"
            @click="station.go()"
          >
            {{ station.name }} <em>{{ station.told }}</em>
          </Button>
        </li>
      </ol>
    </nav>
    <span v-if="!shot.connected" class="tag" role="status">Server not responding; reconnecting …</span>
    <div v-else-if="job" class="run" role="status">
      <!-- A bar of its own for each: one that is full does not run back when the next begins. -->
      <ProgressBar :key="job.key" :value="Math.round(100 * job.progress)" :show-value="false" :aria-label="job.what" />
      <span class="num">{{ percent(job.progress) }}</span> <span class="what">{{ job.what }}</span>
      <span v-if="left" class="dim num left">{{ left }} left</span>
      <Button severity="secondary" variant="text" :aria-label="`Cancel ${job.what}`" @click="job.stop()">Cancel</Button>
    </div>
    <span v-else class="dim idle">idle</span>
    <PageMenu @keys="emit('keys')" />
  </header>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 18px;
  padding: 0 14px;
  height: 44px;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
  white-space: nowrap;
}
.where {
  display: flex;
  gap: 4px 8px;
  align-items: center;
  min-width: 0;
}
.where h1 {
  font-size: 1rem;
  overflow: hidden;
  text-overflow: ellipsis;
}
.where .p-button {
  padding-inline: 0.3rem;
}
nav {
  flex: 1 1 360px;
  max-width: 640px;
}
.where h1 span {
  font-weight: 400;
}
.back {
  color: var(--dim);
  text-decoration: none;
  padding-right: 8px;
  border-right: 1px solid var(--line);
}
.back:hover {
  color: var(--text);
}
.stations {
  display: flex;
}
.stations li {
  flex: 1;
  position: relative;
  min-width: 0;
  padding: 12px 8px 0 0;
  font-size: var(--small);
  color: var(--dim);
}
.stations li::before {
  content: '';
  position: absolute;
  inset: 5px 0 auto;
  height: 1px;
  background: var(--line);
}
.stations li::after {
  content: '';
  position: absolute;
  left: 0;
  top: 1px;
  width: 14px;
  height: 8px;
  border: 1px solid var(--dim);
  border-radius: 4px;
  background: var(--panel);
}
.stations .done {
  color: var(--soft);
}
.stations .done::after {
  background: var(--dim);
}
.stations .here {
  color: var(--text);
}
.stations .here::after {
  background: var(--text);
  border-color: var(--text);
}
nav :deep(button) {
  overflow: hidden;
  text-overflow: ellipsis;
  max-width: 100%;
}
em {
  font-style: normal;
  color: var(--dim);
}
.run {
  margin-left: auto;
  display: flex;
  gap: 8px;
  align-items: center;
}
.run :deep(.p-progressbar) {
  width: 74px;
}
.idle {
  margin-left: auto;
}
@media (max-width: 1180px) {
  .what,
  .left {
    display: none;
  }
}
</style>
