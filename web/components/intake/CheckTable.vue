<script setup lang="ts">
/** Checks by what goes wrong, those that tell something first to the eye, with expected beside found. */
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import { computed, nextTick, watch } from 'vue';
import type { PreflightCheck } from '../../../core/contracts/intake.ts';
import SeverityTag from '../shared/SeverityTag.vue';

const props = defineProps<{ checks: PreflightCheck[]; find: string; all: boolean }>();
const chosen = defineModel<string | null>('chosen', { required: true });

const shown = computed(() => {
  const words = props.find.toLowerCase().split(/\s+/).filter(Boolean);
  return props.checks.filter((check) => {
    const isTold = check.state === 'stop' || check.state === 'caution';
    if (words.length === 0) return isTold || props.all;
    const text = [check.id, check.title, check.found, ...check.offenders.map((o) => `${o.object} ${o.detail}`)];
    const whole = text.join(' ').toLowerCase();
    return words.every((word) => whole.includes(word));
  });
});
/** What stops a shot first, and the groups that have it. */
const RANKS: PreflightCheck['state'][] = ['stop', 'caution', 'clear', 'not-run'];
const GROUPS: Record<PreflightCheck['group'], string> = {
  travel: 'Files and references',
  shape: 'Geometry',
  space: 'Transforms and units',
  surface: 'Materials and UVs',
  light: 'Lights',
  picture: 'Camera and output',
  sheet: 'Settings',
  time: 'Animation',
  weight: 'Size',
  order: 'Names and groups',
};
const groups = computed(() => {
  const sorted = [...shown.value].sort((a, b) => RANKS.indexOf(a.state) - RANKS.indexOf(b.state));
  const names = [...new Set(sorted.map(({ group }) => group))];
  return names.map((name) => ({ name, checks: sorted.filter(({ group }) => group === name) }));
});
const order = computed(() => groups.value.flatMap(({ checks }) => checks));

const selection = computed({
  get: () => order.value.find(({ id }) => id === chosen.value) ?? null,
  set: (check) => check && (chosen.value = check.id),
});

/** Another check of those on screen. */
function step(by: number): void {
  const list = order.value;
  if (list.length === 0) return;
  const at = list.findIndex(({ id }) => id === chosen.value);
  chosen.value = list[at < 0 ? 0 : (at + by + list.length) % list.length].id;
  void nextTick(() =>
    document.querySelector('.checks .p-datatable-row-selected')?.scrollIntoView({ block: 'nearest' }),
  );
}
watch(
  () => order.value.map(({ id }) => id).join(' '),
  () => {
    if (order.value.length && !order.value.some(({ id }) => id === chosen.value))
      chosen.value = (order.value.find(({ state }) => state === 'stop') ?? order.value[0]).id;
  },
  { immediate: true },
);
defineExpose({ step });

/** What was found, and in what, as far as there is room. */
const foundIn = ({ found, offenders, state }: PreflightCheck): string =>
  state === 'clear' || state === 'not-run' || offenders.length === 0 || offenders.length > 3
    ? found
    : `${found}: ${offenders.map(({ object }) => object.replace(/^\//, '')).join(', ')}`;
const inTold = ({ offenders, state }: PreflightCheck): string =>
  state === 'clear' || state === 'not-run' || offenders.length === 0 ? '' : `${offenders.length}`;
</script>

<template>
  <DataTable
    v-model:selection="selection"
    :value="order"
    data-key="id"
    selection-mode="single"
    :meta-key-selection="false"
    size="small"
    row-group-mode="subheader"
    group-rows-by="group"
    scrollable
    scroll-height="flex"
    class="checks"
    :table-props="{ 'aria-label': 'Checks' }"
    @row-unselect="({ data }) => (chosen = data.id)"
  >
    <template #empty>{{
      find ? `No check and no offender is called “${find}”.` : 'Nothing to report: every check that could run is clear.'
    }}</template>
    <template #groupheader="{ data }">{{ GROUPS[data.group as PreflightCheck['group']] }}</template>
    <Column header="" class="how">
      <template #body="{ data }"><SeverityTag :severity="data.state" /></template>
    </Column>
    <Column field="title" header="Check" />
    <Column header="Expected" class="cut">
      <template #body="{ data }"
        ><span class="soft" :title="data.expected">{{ data.expected }}</span></template
      >
    </Column>
    <Column header="Found" class="cut">
      <template #body="{ data }"
        ><span class="soft" :title="foundIn(data)">{{ foundIn(data) }}</span></template
      >
    </Column>
    <Column header="In" class="right num">
      <template #body="{ data }">{{ inTold(data) }}</template>
    </Column>
  </DataTable>
</template>

<style scoped>
.checks {
  min-height: 0;
}
.checks :deep(table) {
  background: var(--panel);
}
.checks :deep(:is(th, td):first-child) {
  padding-left: 16px;
}
.checks :deep(.how) {
  width: 90px;
}
.checks :deep(table) {
  table-layout: fixed;
}
.checks :deep(td.cut) {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.checks :deep(.right) {
  width: 52px;
  text-align: right;
}
.checks :deep(.p-datatable-row-group-header td) {
  color: var(--dim);
  font-weight: 400;
  padding-top: 10px;
  background: var(--panel);
}
.checks :deep(.severity:is(.clear, .not-run)) {
  color: var(--dim);
  border-color: transparent;
}
</style>
