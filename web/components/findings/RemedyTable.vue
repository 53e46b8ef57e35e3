<script setup lang="ts">
/** Remedies of a finding, best first, with what each is predicted to do; the chosen one in detail. */
import Button from 'primevue/button';
import Checkbox from 'primevue/checkbox';
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import { computed, ref, watch } from 'vue';
import type { FindingSummary, TrialSummary } from '../../../core/contracts/events.ts';
import type { Remedy } from '../../../core/contracts/finding.ts';
import { alikeItems, forItems } from '../../../core/document/alike-items.ts';
import { pointerOf } from '../../../core/document/pointers.ts';
import { isSeen, valueIn } from '../../../core/figures/effect.ts';
import { FIGURES, figureOf } from '../../../core/figures/registry.ts';
import { tellEffect } from '../../effect-words.ts';
import { shownOf, textOf } from '../../figure-rows.ts';
import { useCurrent } from '../../stores/current.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';

const props = defineProps<{ item: FindingSummary; remedies: Remedy[] }>();
const shot = useShot();
const view = useView();
const current = useCurrent();
const busy = ref('');

/** Remedies that are shown at once; the rest is asked for. */
const FIRST = 4;
const isWhole = ref(false);
const shown = computed(() => (isWhole.value ? props.remedies : props.remedies.slice(0, FIRST)));
const chosen = ref<Remedy | null>(null);
watch(
  () => props.remedies,
  (remedies) => (chosen.value = remedies.find(({ id }) => id === chosen.value?.id) ?? remedies[0] ?? null),
  { immediate: true },
);
const expanded = computed(() => (chosen.value ? { [chosen.value.id]: true } : {}));

/** Figures that have a column, where a remedy changes them or they are always told: what there is room for. */
const COLUMNS = ['fireflies', 'gap-pixels', 'brightness', 'noise', 'rays'];
const columns = computed(() =>
  FIGURES.filter(({ id }) => COLUMNS.includes(id)).filter((figure) =>
    props.remedies.some(({ predicted }) => {
      const value = predicted ? valueIn(predicted, figure.id) : undefined;
      return value && shownOf(figure, value) !== null && (figure.always || isSeen(value));
    }),
  ),
);
function cell({ predicted }: Remedy, id: string): string {
  const figure = figureOf(id);
  const value = predicted ? shownOf(figure, valueIn(predicted, id)) : null;
  return value === null ? '' : textOf(figure)(value);
}

/** Of remedies that do the same thing to several items, those that it is tried for; all until some are left out. */
const left = ref<Record<string, string[]>>({});
const valuesOf = ({ change }: Remedy) => (change?.kind === 'values' ? change.values : {});
const itemsOf = (remedy: Remedy) => alikeItems(valuesOf(remedy));
const chosenOf = (remedy: Remedy) => itemsOf(remedy).filter((item) => !left.value[remedy.id]?.includes(item));
function choose(remedy: Remedy, item: string, isIn: boolean): void {
  const others = (left.value[remedy.id] ?? []).filter((other) => other !== item);
  left.value = { ...left.value, [remedy.id]: isIn ? others : [...others, item] };
}
function nameOf(item: string): string {
  const [, part, id] = item.split('/') as [string, 'objects' | 'materials' | 'lights', string];
  return shot.state!.document[part]?.[id]?.name || id;
}
const isPart = (remedy: Remedy) => chosenOf(remedy).length < itemsOf(remedy).length;
/** Whether a trial tries it for the items that are chosen. */
function isOfChosen(remedy: Remedy, { patch }: TrialSummary): boolean {
  const set = patch.filter((step) => step.op !== 'test').map(({ path }) => pointerOf(path));
  const wanted = Object.keys(forItems(valuesOf(remedy), chosenOf(remedy)));
  return itemsOf(remedy).every((item) => {
    const inside = (pointer: string) => pointer.startsWith(`${item}/`);
    return set.some(inside) === wanted.some(inside);
  });
}

/** The trial of a remedy that is running or was measured last, if it is about the shot as it is. */
const trialOf = (remedy: Remedy) =>
  shot.state!.trials.findLast(
    (t) =>
      t.findingId === props.item.id &&
      t.remedyId === remedy.id &&
      t.version === shot.state!.head.number &&
      t.state !== 'stopped' &&
      t.state !== 'failed' &&
      isOfChosen(remedy, t),
  );

async function tryOut(remedy: Remedy): Promise<void> {
  busy.value = remedy.id;
  const trial = await shot.tryOut({
    finding: props.item.id,
    remedy: remedy.id,
    region: view.region,
    sheet: props.item.sheet,
    values: null,
    ...(isPart(remedy) ? { only: chosenOf(remedy) } : {}),
  });
  busy.value = '';
  if (trial) view.trialId = trial.id;
}
</script>

<template>
  <DataTable
    v-model:selection="chosen"
    :value="shown"
    :expanded-rows="expanded"
    data-key="id"
    selection-mode="single"
    :meta-key-selection="false"
    size="small"
    class="remedies"
    :table-props="{ 'aria-label': 'Remedies' }"
    @row-unselect="({ data }) => (chosen = data)"
  >
    <Column header="Remedy">
      <template #body="{ data }">
        <b>{{ data.title }}</b>
      </template>
    </Column>
    <Column v-for="figure in columns" :key="figure.id" :header="figure.short" class="figure num">
      <template #body="{ data }">{{ cell(data, figure.id) }}</template>
    </Column>
    <template #expansion="{ data }">
      <div class="detail">
        <div>
          <p v-if="data.predicted" class="soft">{{ tellEffect(data.predicted) }}</p>
          <p v-else-if="data.change" class="dim">Predicted when you try it.</p>
          <p v-if="data.note" class="dim">{{ data.note }}</p>
          <details v-if="itemsOf(data).length" class="items">
            <summary>
              for {{ isPart(data) ? `${chosenOf(data).length} of ` : 'all ' }}{{ itemsOf(data).length
              }}<template v-if="isPart(data)">: predicted when you try it</template>
            </summary>
            <label v-for="one in itemsOf(data)" :key="one">
              <Checkbox
                binary
                size="small"
                :input-id="`for ${one}`"
                :model-value="chosenOf(data).includes(one)"
                :disabled="chosenOf(data).length === 1 && chosenOf(data)[0] === one"
                @update:model-value="choose(data, one, $event)"
              />
              {{ nameOf(one) }} <span class="dim">{{ one.split('/')[2] }}</span>
            </label>
          </details>
        </div>
        <Button v-if="trialOf(data)" severity="secondary" variant="outlined" @click="view.trialId = trialOf(data)!.id">
          Trial {{ trialOf(data)!.number }}
        </Button>
        <span v-else-if="data.change === null" class="dim">Advice only: nothing to try here.</span>
        <Button
          v-else
          :severity="item.aside === null ? undefined : 'secondary'"
          :loading="busy === data.id"
          :disabled="busy !== ''"
          :title="`Renders ${current.region?.width} × ${current.region?.height} pixels ${data.change.kind === 'hold-out' ? 'without it, and in two parts with it' : 'with and without it'}`"
          @click="tryOut(data)"
        >
          {{ busy === data.id && data.change.kind === 'files' ? 'Making its files …' : 'Try here' }}
        </Button>
      </div>
    </template>
  </DataTable>
  <Button v-if="remedies.length > FIRST" severity="secondary" variant="text" class="more" @click="isWhole = !isWhole">
    {{ isWhole ? 'Fewer remedies' : `${remedies.length - FIRST} more` }}
  </Button>
</template>

<style scoped>
.remedies :deep(b) {
  font-weight: 500;
  white-space: normal;
}
.remedies :deep(th),
.remedies :deep(td) {
  padding-inline: 6px;
}
.remedies :deep(.figure) {
  text-align: right;
  vertical-align: top;
  width: 1%;
}
.remedies :deep(.figure .p-datatable-column-header-content) {
  justify-content: flex-end;
}
.remedies :deep(.p-datatable-row-expansion > td) {
  background: var(--up);
}
.detail {
  display: flex;
  justify-content: space-between;
  align-items: start;
  gap: 10px;
  font-size: var(--small);
}
.detail > div {
  min-width: 0;
}
.items summary {
  color: var(--soft);
  cursor: pointer;
}
.items label {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 1px 0;
}
.more {
  align-self: flex-start;
}
</style>
