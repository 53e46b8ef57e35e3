<script setup lang="ts">
/** What the shot costs on the farm, before its changes and after, by frames that were measured. */
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import Select from 'primevue/select';
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import { computed, ref, watch } from 'vue';
import type { FarmRequest } from '../../../core/contracts/requests.ts';
import type { SheetName } from '../../../core/document/schema.ts';
import { frameChangeOf } from '../../../core/figures/effect.ts';
import { farmBudget, type Budget, type FrameWork } from '../../../core/predict/budget.ts';
import { count, durations, number, percent, times } from '../../format.ts';
import { useCurrent } from '../../stores/current.ts';
import { useShot } from '../../stores/shot.ts';

const shot = useShot();
const current = useCurrent();

const sheet = ref<SheetName>('final');
const head = computed(() => shot.state!.head);
/** The version that the present one is held against; the first until another is chosen. */
const chosen = ref<number | null>(null);
const before = computed(() => chosen.value ?? shot.state!.versions[0].number);
const others = computed(() => shot.state!.versions.filter((v) => v.id !== head.value.id));

/** As somebody has just said it, until the server has it. */
const said = ref<FarmRequest | null>(null);
const farm = computed(() => said.value ?? shot.state!.farm);
watch(
  () => JSON.stringify(shot.state!.farm),
  (kept) => kept === JSON.stringify(said.value) && (said.value = null),
);
const FIELDS: { key: keyof FarmRequest; label: string; min: number; max: number; digits: number; suffix?: string }[] = [
  { key: 'frames', label: 'Frames', min: 1, max: 1e6, digits: 0 },
  { key: 'machines', label: 'Machines', min: 1, max: 1e5, digits: 0 },
  { key: 'threads', label: 'Threads per machine', min: 1, max: 1024, digits: 0 },
  { key: 'speed', label: 'Thread speed, relative to this server', min: 0.01, max: 100, digits: 2, suffix: ' ×' },
  { key: 'price', label: 'Price per machine hour', min: 0, max: 1e6, digits: 3 },
];
function set(key: keyof FarmRequest, value: number | null): void {
  if (value === farm.value[key] || (value === null && key !== 'price')) return;
  said.value = { ...farm.value, [key]: value };
  void shot.keepFarm(said.value).then((done) => !done && (said.value = null));
}

const timeOf = (version: number) =>
  shot.state!.frameTimes.find((t) => t.version === version && t.sheet === sheet.value) ?? null;
const wanted = computed(() => [...new Set([before.value, head.value.number])]);
const isMeasuring = computed(() => wanted.value.some((v) => timeOf(v)?.state === 'waiting'));
const isMissing = computed(() => wanted.value.some((v) => timeOf(v)?.state !== 'done'));
const problems = computed(() => wanted.value.flatMap((v) => timeOf(v)?.error ?? []));

/** The trial that is up, or the newest, where it is measured on the present version and not decided. */
const trial = computed(() => {
  const fits = (t: typeof current.trial) =>
    t?.state === 'done' && t.version === head.value.number && t.verdict === null;
  if (fits(current.trial)) return current.trial;
  return shot.state!.trials.findLast(fits) ?? null;
});

interface SumColumn {
  title: string;
  tip: string;
  work: FrameWork;
  rays: number;
  /** Standard error, as a share. */
  share: number;
}
const columns = computed<SumColumn[]>(() => {
  const out: SumColumn[] = wanted.value.flatMap((version) => {
    const time = timeOf(version);
    if (time?.state !== 'done') return [];
    const reason = shot.state!.versions.find((v) => v.number === version)!.reason;
    return [{ title: version === head.value.number ? `now, v${version}` : `v${version}`, tip: reason, work: time, rays: time.rays, share: time.share }]; // prettier-ignore
  });
  const now = timeOf(head.value.number);
  if (trial.value && now?.state === 'done') {
    const factor = frameChangeOf(trial.value.measured!, 'rays') ?? 1;
    out.push({
      title: `trial ${trial.value.number}`,
      tip: `${trial.value.title}: rays ${times(factor)}, as measured by the ${trial.value.sheet} sheet on its region, carried over to the frame`,
      work: { threadSeconds: now.threadSeconds * factor, onceSeconds: now.onceSeconds },
      rays: now.rays * factor,
      share: now.share,
    });
  }
  return out;
});
const budgets = computed(() => columns.value.map(({ work }) => farmBudget(work, farm.value)));
const each = (of: (budget: Budget) => number, scale = 1) => durations(budgets.value.map((b) => of(b) * scale));
const HOUR = 3600;

const rows = computed(() =>
  [
    { label: 'Rays per frame', cells: columns.value.map(({ rays }) => count(rays)) },
    { label: 'Thread time per frame, here', cells: durations(columns.value.map(({ work }) => work.threadSeconds)) },
    { label: 'give or take', cells: columns.value.map(({ share }) => percent(share)), isFaint: true },
    { label: 'Time per frame on one machine', cells: each((b) => b.frameSeconds) },
    { label: `${number(farm.value.frames)} frames, machine hours`, cells: each((b) => b.frameHours, HOUR) },
    { label: 'Once per machine: files, BVHs, mips', cells: each((b) => b.onceSeconds), isFaint: true },
    { label: 'of all machines', cells: each((b) => b.onceHours, HOUR), isFaint: true },
    { label: 'Total machine hours', cells: each((b) => b.machineHours, HOUR), isSum: true },
    { label: 'Until the last frame is done', cells: each((b) => b.wholeHours, HOUR) },
    ...(farm.value.price === null ? [] : [{ label: 'Price', cells: budgets.value.map((b) => number(b.price!, 2)) }]),
    { label: 'Relative to the first column', cells: budgets.value.map((b) => times(b.machineHours / budgets.value[0].machineHours)) },
  ] satisfies { label: string; cells: string[]; isFaint?: boolean; isSum?: boolean }[],
); // prettier-ignore
</script>

<template>
  <section class="budget" aria-label="Budget">
    <div class="farm">
      <template v-for="field in FIELDS" :key="field.key">
        <label :for="`farm-${field.key}`">{{ field.label }}</label>
        <InputNumber
          :model-value="farm[field.key]"
          :input-id="`farm-${field.key}`"
          size="small"
          :min="field.min"
          :max="field.max"
          :max-fraction-digits="field.digits"
          :suffix="field.suffix"
          :allow-empty="field.key === 'price'"
          :placeholder="field.key === 'price' ? 'not asked' : undefined"
          @update:model-value="set(field.key, $event)"
        />
      </template>
    </div>
    <div class="ask">
      <label>
        <span class="dim">Sheet</span>
        <Select v-model="sheet" :options="['final', 'preview']" size="small" aria-label="Sheet" />
      </label>
      <label v-if="others.length">
        <span class="dim">Compared with</span>
        <Select
          :model-value="before"
          :options="others"
          option-value="number"
          :option-label="
            (version: { number: number; reason: string }) => `version ${version.number}: ${version.reason.slice(0, 40)}`
          "
          size="small"
          aria-label="Compared with"
          @update:model-value="chosen = $event"
        />
      </label>
      <Button
        :severity="isMissing && !isMeasuring ? undefined : 'secondary'"
        :variant="isMissing && !isMeasuring ? undefined : 'outlined'"
        :disabled="isMeasuring"
        title="Renders and times a small part of the frame on all threads"
        @click="shot.measureFrames(sheet, wanted)"
      >
        {{ isMeasuring ? 'Measuring …' : isMissing ? 'Measure' : 'Measure again' }}
      </Button>
    </div>
    <p v-for="problem in problems" :key="problem" class="bad" role="alert">{{ problem }}</p>
    <DataTable
      v-if="columns.length"
      :value="rows"
      data-key="label"
      size="small"
      class="sums"
      :class="{ stale: isMeasuring }"
      :row-class="(row: { isFaint?: boolean; isSum?: boolean }) => ({ faint: row.isFaint, sum: row.isSum })"
      :table-props="{ 'aria-label': 'What the shot costs' }"
    >
      <Column field="label" header="" />
      <Column v-for="(column, i) in columns" :key="column.title" class="num">
        <template #header
          ><span :title="column.tip">{{ column.title }}</span></template
        >
        <template #body="{ data }">{{ data.cells[i] }}</template>
      </Column>
    </DataTable>
    <p v-else-if="!isMeasuring" class="dim">
      Nothing measured for this sheet yet. It takes a few seconds: evenly spread pixels of the frame are rendered with
      its settings, rays are counted, and one-time work is timed separately.
    </p>
    <p v-if="columns.length" class="dim note">
      Times are those of the server this page renders on, as busy as it was; ray counts are the same everywhere.
    </p>
  </section>
</template>

<style scoped>
.budget {
  padding: 10px 14px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  font-size: var(--small);
}
.farm {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 92px;
  gap: 4px 8px;
  align-items: center;
}
.farm :deep(input) {
  width: 92px;
  text-align: right;
  font-size: var(--small);
}
label {
  color: var(--soft);
}
.ask {
  display: flex;
  gap: 10px;
  align-items: end;
  flex-wrap: wrap;
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
.ask label {
  display: grid;
  min-width: 0;
}
.ask :deep(.p-select) {
  max-width: 180px;
}
.ask button {
  margin-left: auto;
}
.sums :deep(:is(th, td)) {
  padding-inline: 0 6px;
  border: 0;
}
.sums :deep(.num) {
  text-align: right;
}
.sums :deep(.num .p-datatable-column-header-content) {
  justify-content: flex-end;
}
.sums.stale :deep(td),
.sums :deep(tr.faint td) {
  color: var(--dim);
}
.sums :deep(tr.sum td) {
  font-weight: 600;
  border-top: 1px solid var(--line);
}
.note {
  font-size: var(--small);
}
.bad {
  color: var(--stop);
}
</style>
