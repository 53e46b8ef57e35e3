<script setup lang="ts">
/** One trial of the ledger: predicted beside measured, and the decision about it. */
import Button from 'primevue/button';
import { computed } from 'vue';
import type { TrialSummary } from '../../../core/contracts/events.ts';
import { tellFigure, toldOf } from '../../../core/figures/effect.ts';
import { tellEqualNoise, tellUnseen } from '../../effect-words.ts';
import { figureRows, passOf } from '../../figure-rows.ts';
import { passName, percent } from '../../format.ts';
import { canDrop, canKeep, isRunning } from '../../trial-state.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import EffectAxis from './EffectAxis.vue';
import PictureThumb from '../shared/PictureThumb.vue';

const props = defineProps<{ trial: TrialSummary }>();
const emit = defineEmits<{ keep: [] }>();
const shot = useShot();
const view = useView();

const after = computed(() => shot.renderOf(props.trial.afterRenderId));
const before = computed(() => shot.renderOf(props.trial.beforeRenderId));
const progress = computed(() => {
  const [b, a] = [before.value, after.value];
  return b && a ? (b.progress * b.samples + a.progress * a.samples) / (b.samples + a.samples) : 0;
});
const state = computed(() => {
  const { state, verdict, sheet, version } = props.trial;
  if (verdict === 'keep') return 'kept';
  if (verdict === 'drop') return 'dropped';
  if (state === 'predicting') return 'predicting …';
  if (state === 'rendering') return percent(progress.value);
  if (state === 'done') return `${sheet}, v${version}`;
  return state;
});
/** Axes there is room for. */
const AXES = 4;
const axes = computed(() => figureRows(props.trial, AXES));
/** What was measured beyond the axes, or predicted until then. */
const told = computed(() => {
  const { predicted, measured, sheet } = props.trial;
  const effect = measured ?? predicted;
  if (!effect) return '';
  const own = shot.state!.document.sheets[sheet].samples;
  const samples = { before: before.value?.samples ?? own, after: after.value?.samples ?? own };
  const others = toldOf(effect).filter(({ id }) => !axes.value.some((axis) => axis.id === id));
  const pass = passOf(effect);
  return [
    pass ? `Seen in ${passName(pass).toLowerCase()}` : '',
    tellUnseen(effect, props.trial.patch),
    ...others.map(tellFigure),
    tellEqualNoise(effect, samples),
  ]
    .filter(Boolean)
    .join('. ');
});
const isUp = computed(() => view.trialId === props.trial.id);
</script>

<template>
  <li class="ledger-card beside" :class="{ on: isUp }">
    <Button
      unstyled
      class="bare face"
      :aria-pressed="isUp"
      :title="`Compare before and after of trial ${trial.number}`"
      @click="view.trialId = trial.id"
    >
      <PictureThumb v-if="after" :render="after" />
    </Button>
    <div class="facts">
      <p class="title">
        <b :title="trial.title">{{ trial.number }} · {{ trial.title }}</b>
        <span :class="{ kept: trial.verdict === 'keep' }" class="state">{{ state }}</span>
      </p>
      <EffectAxis v-for="axis in axes" :key="axis.id" v-bind="axis" />
      <p class="foot">
        <span v-if="trial.error" class="bad" :title="trial.error">{{ trial.error }}</span>
        <span v-else class="dim num told" :title="told">{{
          told || `${trial.region.width} × ${trial.region.height} px`
        }}</span>
        <span class="gap"></span>
        <Button v-if="isRunning(trial)" severity="secondary" variant="text" @click="shot.stopTrial(trial)"
          >Cancel</Button
        >
        <template v-else-if="canDrop(trial)">
          <Button severity="secondary" variant="text" @click="shot.dropTrial(trial)">Drop</Button>
          <Button
            v-if="canKeep(trial)"
            :severity="isUp ? undefined : 'secondary'"
            :variant="isUp ? undefined : 'outlined'"
            @click="emit('keep')"
          >
            Keep …
          </Button>
        </template>
      </p>
    </div>
  </li>
</template>

<style scoped>
.beside {
  grid-template-columns: 82px 1fr;
  gap: 10px;
}
.title {
  margin-bottom: 3px;
}
.face {
  align-self: start;
  min-height: 50px;
  background: var(--stage);
}
.facts {
  min-width: 0;
}
.told {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  flex: 1 1 auto;
}
.bad {
  color: var(--stop);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
