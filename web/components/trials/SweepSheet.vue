<script setup lang="ts">
/** A sweep as a contact sheet: the region as it is now and at each step, with noise, cost and light under each; a chart of them. */
import Button from 'primevue/button';
import Select from 'primevue/select';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import type { SweepSummary, TrialSummary } from '../../../core/contracts/events.ts';
import type { Effect } from '../../../core/contracts/figures.ts';
import { isSeen, valueIn } from '../../../core/figures/effect.ts';
import { BLACK_STOPS } from '../../../core/figures/stops-between.ts';
import type { Figure } from '../../../core/figures/figure.ts';
import { FIGURES, figureOf } from '../../../core/figures/registry.ts';
import { tellEffect, tellEqualNoise, tellUnseen } from '../../effect-words.ts';
import { chartedOf, passOf, shownOf, textOf } from '../../figure-rows.ts';
import { passName, percent } from '../../format.ts';
import { useCurrent } from '../../stores/current.ts';
import { useShot } from '../../stores/shot.ts';
import { sweepProgress } from '../../stores/sweep-progress.ts';
import { useView } from '../../stores/view.ts';
import KeepDialog from './KeepDialog.vue';
import PictureCanvas from '../stage/PictureCanvas.vue';
import SweepChart from './SweepChart.vue';

const props = defineProps<{ sweep: SweepSummary }>();
const shot = useShot();
const view = useView();
const current = useCurrent();

const steps = computed(() => shot.stepsOf(props.sweep.id));
const lead = computed(() => steps.value[0]);
const before = computed(() => shot.renderOf(lead.value.beforeRenderId));
const progress = computed(() => sweepProgress(steps.value, shot.renderOf));
const keeping = ref<TrialSummary | null>(null);
const chosenId = ref<number | null>(null);
const chosen = computed(() => steps.value.find((t) => t.id === chosenId.value) ?? null);
watch(
  () => props.sweep.id,
  () => (chosenId.value = null),
);

const effectOf = (step: TrialSummary) => step.measured ?? step.predicted;
/** The render that all share: the figures of any step, as they are before it. */
const now = computed<Effect | null>(() => {
  const some = steps.value.find((t) => t.measured)?.measured ?? steps.value.find((t) => t.predicted)?.predicted;
  return some ? { figures: some.figures.map((value) => ({ ...value, after: value.before })) } : null;
});
/** The pass that shows what the steps change, where a person has not chosen one and the beauty does not show it. */
const seenPass = computed(
  () => steps.value.map((step) => passOf(effectOf(step))).find((pass) => pass !== null) ?? null,
);
const shownPass = computed(() => (view.pass === 'beauty' && seenPass.value ? seenPass.value : view.pass));
/** Figures that are told under each picture: those that change at some step, and those that are always told. */
const MOST_FIGURES = 5;
const figures = computed(() => {
  const effects = steps.value.flatMap((step) => effectOf(step) ?? []);
  const isThere = ({ id }: Figure) => effects.some((effect) => (valueIn(effect, id)?.after ?? null) !== null);
  const changes = ({ id }: Figure) =>
    effects.some((effect) => effect.figures.some((value) => value.id === id && isSeen(value)));
  const numbers = FIGURES.filter((figure) => figure.tells === undefined && isThere(figure));
  const chosen = numbers.filter((figure) => figure.always || changes(figure));
  return chosen.length > MOST_FIGURES
    ? chosen.filter(({ always, id }) => always || id !== 'time').slice(0, MOST_FIGURES)
    : chosen;
});
function tellIn(effect: Effect, figure: Figure): string {
  const value = valueIn(effect, figure.id);
  const shown = shownOf(figure, value);
  if (!value || shown === null) return '';
  const isBlack = figure.unit === 'stops' && (value.before ?? 0) <= BLACK_STOPS;
  return `${figure.short} ${isBlack && shown !== 0 ? 'from black' : textOf(figure)(shown)}`;
}

/** What stands now and the steps; numbers by size. */
const cells = computed(() => {
  const isMeasured = steps.value.some((t) => t.measured);
  const all = [
    { key: 0, step: null, label: presentValue.value, render: before.value, effect: now.value, isMeasured },
    ...steps.value.map((step) => ({
      key: step.id,
      step,
      label: step.step!,
      render: shot.renderOf(step.afterRenderId),
      effect: effectOf(step),
      isMeasured: step.measured !== null,
    })),
  ];
  return isNumeric.value ? all.sort((p, q) => Number(p.label) - Number(q.label)) : all;
});
const isNumeric = computed(() =>
  [presentValue.value, ...steps.value.map((t) => t.step!)].every(
    (label) => label !== '' && !Number.isNaN(Number(label)),
  ),
);
/** What the swept control was when the sweep began. */
const presentValue = computed(() => {
  const was = lead.value.patch.find((step) => step.op === 'test') as { value: unknown } | undefined;
  if (was === undefined || was.value === null) return 'current';
  return typeof was.value === 'string' ? was.value : JSON.stringify(was.value);
});

/** The figure that is charted beside rays: the first that changes and is neither cost nor noise, else noise, until another is chosen. */
const COSTS = ['rays', 'time', 'memory'];
const chartable = computed(() => figures.value.filter(({ id }) => !COSTS.includes(id)));
const asked = ref<string | null>(null);
const charts = computed(
  () =>
    chartable.value.find(({ id }) => id === asked.value) ??
    chartable.value.find(({ always, id }) => !always && id !== 'bright-noise') ??
    chartable.value.find(({ id }) => id === 'noise') ??
    chartable.value[0],
);
const rays = figureOf('rays');
const charted = computed(() =>
  cells.value.flatMap(({ label, step, effect }) => {
    if (!effect || !charts.value) return [];
    const shown = (figure: Figure) => chartedOf(figure, valueIn(effect, figure.id));
    return [{ label, isNow: step === null, value: shown(charts.value), rays: shown(rays) }];
  }),
);

const room = ref<HTMLElement | null>(null);
const size = ref({ width: 680, height: 380 });
const observer = new ResizeObserver(([{ contentRect }]) => {
  size.value = { width: contentRect.width, height: contentRect.height };
});
onMounted(() => observer.observe(room.value!));
onBeforeUnmount(() => observer.disconnect());

/** What stands under each picture, and between two cells, pixels. */
const [CAPTION, GAP] = [74, 8];
/** As few columns as let all cells be seen at once, which makes pictures largest. */
const columns = computed(() => {
  const { region } = lead.value;
  const n = cells.value.length;
  const heightAt = (count: number) => {
    const picture = ((size.value.width + GAP) / count - GAP - 8) * (region.height / region.width);
    return Math.ceil(n / count) * (picture + CAPTION + GAP) - GAP;
  };
  for (let count = 1; count < Math.min(n, 5); count++) if (heightAt(count) <= size.value.height) return count;
  return Math.min(n, 5);
});
const told = computed(() => {
  const seen = seenPass.value
    ? `The beauty shows no change; it shows in ${passName(seenPass.value).toLowerCase()}. `
    : '';
  if (!chosen.value) return `${seen}Pick one to see its figures, compare it at full size or keep it.`;
  const effect = effectOf(chosen.value);
  if (chosen.value.error) return chosen.value.error;
  if (!effect) return 'Predicting …';
  const { predicted: p, measured: m } = chosen.value;
  const samples = {
    before: before.value?.samples ?? 0,
    after: shot.renderOf(chosen.value.afterRenderId)?.samples ?? 0,
  };
  return [
    m && p ? `Predicted: ${tellEffect(p)}` : 'Not measured yet',
    tellUnseen(effect, chosen.value.patch),
    tellEqualNoise(effect, samples),
  ]
    .filter(Boolean)
    .join('. ');
});

function stepChosen(by: number): void {
  const at = cells.value.findIndex((cell) => (cell.step?.id ?? null) === chosenId.value);
  const next = cells.value[(at + by + cells.value.length) % cells.value.length];
  chosenId.value = next.step?.id ?? null;
}
function onKey(event: KeyboardEvent): void {
  const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -columns.value, ArrowDown: columns.value }[event.key];
  if (by !== undefined) {
    event.preventDefault();
    stepChosen(by);
  } else if (event.key === 'Enter' && chosen.value) {
    event.preventDefault();
    compare(chosen.value);
  }
}
const compare = (step: TrialSummary) => (view.trialId = step.id);
</script>

<template>
  <div class="sweep">
    <div
      ref="room"
      class="cells"
      role="listbox"
      tabindex="0"
      :aria-label="`Steps of ${sweep.title}`"
      :style="{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }"
      @keydown="onKey"
    >
      <div
        v-for="cell in cells"
        :key="cell.key"
        class="cell"
        role="option"
        :aria-selected="cell.step !== null && cell.step.id === chosenId"
        :aria-label="`${cell.label}${cell.step ? '' : ', now'}`"
        :class="{ on: cell.step !== null && cell.step.id === chosenId }"
        @click="chosenId = cell.step?.id ?? null"
        @dblclick="cell.step && compare(cell.step)"
      >
        <div class="picture" :style="{ aspectRatio: `${lead.region.width} / ${lead.region.height}` }">
          <PictureCanvas
            v-if="cell.render"
            :render="cell.render"
            :pass="shownPass"
            :exposure="view.exposure"
            :gamma="view.gamma"
            :top="current.figures?.tops[shownPass] ?? 1"
          />
        </div>
        <p class="label num">
          <b>{{ cell.label }}</b>
          <span v-if="!cell.step" class="tag">now</span>
          <span v-else-if="cell.step.verdict === 'keep'" class="ok">kept</span>
          <span v-else-if="['failed', 'stopped'].includes(cell.step.state)" class="tag">{{ cell.step.state }}</span>
        </p>
        <p v-if="cell.effect" class="figures num" :class="{ dim: !cell.isMeasured }">
          <span v-for="figure in figures" :key="figure.id">{{ tellIn(cell.effect, figure) }}</span>
        </p>
      </div>
    </div>
    <div class="foot">
      <div>
        <Select
          v-if="chartable.length > 1"
          :model-value="charts?.id"
          :options="chartable"
          option-label="label"
          option-value="id"
          size="small"
          aria-label="Figure to chart"
          @update:model-value="asked = $event"
        />
        <SweepChart
          v-if="charts"
          :points="charted"
          :title="sweep.title"
          :figure="charts.short"
          :tell="textOf(charts)"
          :chosen="chosen?.step ?? null"
          :is-ordered="isNumeric"
        />
      </div>
      <div class="decide">
        <p class="soft told" role="status">{{ told }}</p>
        <p class="acts">
          <template v-if="progress.isRunning">
            <span class="num dim">{{ percent(progress.share) }}</span>
            <Button severity="secondary" variant="text" @click="shot.stopSweep(sweep)">Cancel</Button>
          </template>
          <Button severity="secondary" variant="outlined" :disabled="!chosen" @click="chosen && compare(chosen)"
            >Compare</Button
          >
          <Button :disabled="chosen?.state !== 'done' || chosen.verdict === 'keep'" @click="keeping = chosen">
            Keep {{ chosen?.step ?? '' }} …
          </Button>
        </p>
      </div>
    </div>
    <KeepDialog v-if="keeping" :trial="keeping" @closed="keeping = null" />
  </div>
</template>

<style scoped>
.sweep {
  min-height: 0;
  display: grid;
  grid-template: minmax(0, 1fr) auto / minmax(0, 1fr);
}
.cells {
  display: grid;
  gap: 8px;
  padding: 10px;
  overflow: auto;
  align-content: start;
  outline-offset: -2px;
}
.cell {
  background: var(--panel);
  padding: 4px;
  border-radius: 3px;
  cursor: pointer;
  min-width: 0;
}
.cell.on {
  box-shadow: 0 0 0 2px var(--act);
}
.picture {
  background: #1c1c1c;
}
.label {
  display: flex;
  gap: 6px;
  align-items: baseline;
  padding-top: 3px;
  overflow: hidden;
}
.label b {
  overflow: hidden;
  text-overflow: ellipsis;
}
.ok {
  color: var(--ok);
  font-size: var(--small);
}
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
  font-size: var(--small);
  color: var(--soft);
}
.figures.dim {
  color: var(--dim);
}
.foot {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 290px);
  gap: 10px;
  padding: 6px 10px;
  background: var(--panel);
  border-top: 1px solid var(--line);
}
.decide {
  display: grid;
  align-content: space-between;
  font-size: var(--small);
}
.told {
  display: -webkit-box;
  -webkit-line-clamp: 4;
  -webkit-box-orient: vertical;
  overflow: hidden;
}
.acts {
  display: flex;
  gap: 6px;
  justify-content: flex-end;
  align-items: center;
}
</style>
