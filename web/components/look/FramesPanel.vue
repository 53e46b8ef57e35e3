<script setup lang="ts">
/** A sequence frame by frame: brightness, noise, outliers; what flickers where nothing moves. */
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import ProgressBar from 'primevue/progressbar';
import Button from 'primevue/button';
import { computed, ref, watch } from 'vue';
import Chart from 'vue3-apexcharts';
import { jumpsIn, type Flicker } from '../../../core/picture/sequence/flicker.ts';
import { percent, stops } from '../../format.ts';
import { desk } from '../../picture/desk.ts';
import { useLook } from '../../stores/look.ts';
import SeverityTag from '../shared/SeverityTag.vue';

const look = useLook();
const frames = computed(() => look.sequence?.frames ?? []);
const whole = computed(() => frames.value.flatMap(({ figures, lacks, ...one }) => (figures && lacks === 0 ? [{ ...one, figures }] : []))); // prettier-ignore
const cut = computed(() => frames.value.filter(({ lacks }) => lacks > 0));
const jumps = computed(() => jumpsIn(whole.value.map(({ frame, figures }) => ({ frame, shown: figures.shown }))));
const layersDiffer = computed(() => new Set(frames.value.map(({ layers }) => layers)).size > 1);
// Frames of ours are measured as they come.
watch(() => frames.value.map(({ key }) => look.sourceOf(key)?.stamp).join(), () => void look.measureFrames(), { immediate: true }); // prettier-ignore

const flickers = ref<{ from: number; to: number; flicker: Flicker }[]>([]);
const progress = ref<number | null>(null);
const failure = ref('');
let turn = 0;
watch(() => look.sequence?.id, () => { flickers.value = []; progress.value = null; failure.value = ''; turn++; }); // prettier-ignore

/** Frame after frame, those that follow each other and are whole. */
async function measure(): Promise<void> {
  const mine = ++turn;
  failure.value = '';
  const pairs = whole.value.slice(1).flatMap((b, i) => (b.frame - whole.value[i].frame === 1 ? [[whole.value[i], b] as const] : [])); // prettier-ignore
  const found: typeof flickers.value = [];
  progress.value = 0;
  try {
    for (const [a, b] of pairs) {
      for (const one of [a, b]) await look.open(look.sourceOf(one.key)!);
      const flicker = await desk.ask('flicker', { a: a.key, b: b.key });
      if (mine !== turn) return;
      found.push({ from: a.frame, to: b.frame, flicker });
      flickers.value = [...found];
      progress.value = found.length / pairs.length;
    }
    if (!pairs.length) failure.value = 'No two whole frames follow each other.';
  } catch (error) {
    failure.value = (error as Error).message;
  } finally {
    if (mine === turn) progress.value = null;
  }
}
const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length;
const summary = computed(() => {
  const known = flickers.value.map(({ flicker }) => flicker).filter(({ still }) => still > 0);
  if (!known.length) return null;
  const boiling = known.flatMap(({ boiling: share }) => (share === null ? [] : [share]));
  return { still: mean(known.map(({ still }) => still)), visible: mean(known.map(({ visible }) => visible)), boiling: boiling.length ? mean(boiling) : null }; // prettier-ignore
});
function tell(boiling: number): string {
  if (boiling > 0.7) return 'it boils: the noise is new in every frame';
  return boiling < 0.3
    ? 'it stands still: the noise is the same in every frame'
    : 'part of it boils, part stands still';
}

const all = computed(() => {
  const numbers = frames.value.map(({ frame }) => frame);
  const list: number[] = [];
  for (let f = Math.min(...numbers); f <= Math.max(...numbers) && list.length < 5000; f++) list.push(f);
  return list;
});
const at = computed(() => new Map(whole.value.map(({ frame, figures }) => [frame, figures])));
const series = computed(() => [
  { name: 'noise', data: all.value.map((frame) => ({ x: frame, y: at.value.get(frame)?.noise.all.grain ?? null })) },
  { name: 'outliers', data: all.value.map((frame) => ({ x: frame, y: at.value.get(frame)?.outliers ?? null })) },
  { name: 'mean', data: all.value.map((frame) => ({ x: frame, y: at.value.get(frame)?.mean ?? null })) },
]);
const CHARTS = [
  { title: 'Noise of 255, shadows boosted', unit: 'of 255', digits: 1 },
  { title: 'Outliers', unit: 'pixels', digits: 0 },
  { title: 'Mean luminance', unit: 'linear', digits: 4 },
];
const options = (digits: number, title: string) => ({
  chart: { id: undefined, animations: { enabled: false }, toolbar: { show: false }, zoom: { enabled: false }, background: 'transparent', fontFamily: 'Inter Variable', foreColor: '#9a9a9a', parentHeightOffset: 0 }, // prettier-ignore
  theme: { mode: 'dark' },
  legend: { show: false },
  dataLabels: { enabled: false },
  colors: ['#b5b5b5'],
  plotOptions: { bar: { columnWidth: '70%' } },
  grid: { borderColor: '#2e2e2e', padding: { left: 4, right: 4, top: -16, bottom: 0 } },
  tooltip: { theme: 'dark', y: { formatter: (y: number | null) => (y === null ? 'not there' : y.toFixed(digits)) } },
  xaxis: { type: 'category', labels: { style: { fontSize: '12px' } }, axisBorder: { show: false } },
  yaxis: { min: 0, tickAmount: 2, labels: { style: { fontSize: '12px' }, formatter: (y: number) => (y === 0 ? '0' : +y.toPrecision(2) >= 1 ? y.toFixed(Math.min(digits, 1)) : String(+y.toPrecision(2))) }, title: { text: title, style: { color: '#9a9a9a', fontSize: '12px', fontWeight: 400 } } }, // prettier-ignore
});
</script>

<template>
  <section class="frames" aria-label="Frames">
    <template v-if="look.sequence">
      <ul class="findings">
        <li v-if="look.sequence.missing.length">
          <SeverityTag severity="stop" />
          {{
            look.sequence.missing.length === 1
              ? `Frame ${look.sequence.missing[0]} is`
              : `Frames ${look.sequence.missing.slice(0, 12).join(', ')}${look.sequence.missing.length > 12 ? ' …' : ''} are`
          }}
          missing.
        </li>
        <li v-for="one in cut" :key="one.key">
          <SeverityTag severity="stop" /><span
            >Frame {{ one.frame }} is cut short: {{ one.lacks }} chunks are missing.
            <Button severity="secondary" variant="text" @click="look.show(one.key)">Show</Button></span
          >
        </li>
        <li v-for="jump in jumps" :key="jump.frame">
          <SeverityTag severity="caution" /> Frame {{ jump.frame }} is {{ stops(jump.stops) }} stops off the frames
          around it.
        </li>
        <li v-if="layersDiffer"><SeverityTag severity="caution" /> Its frames do not all have the same layers.</li>
        <li v-if="!look.sequence.missing.length && !cut.length && !jumps.length && !layersDiffer" class="soft">
          All frames are there and whole; none jumps in brightness.
        </li>
      </ul>
      <figure v-for="(chart, i) in CHARTS" :key="chart.title">
        <figcaption class="dim">{{ chart.title }}</figcaption>
        <Chart type="bar" height="92" :options="options(chart.digits, chart.unit)" :series="[series[i]]" />
      </figure>
      <p class="actions">
        <Button severity="secondary" variant="outlined" :disabled="progress !== null" @click="measure"
          >Measure flicker</Button
        >
        <span v-if="progress !== null" role="status"
          ><ProgressBar :value="Math.round(100 * progress)" :show-value="false" aria-label="Measuring flicker" />
          <span class="num">{{ percent(progress) }}</span>
          <Button
            severity="secondary"
            variant="text"
            @click="
              turn++;
              progress = null;
            "
          >
            Cancel
          </Button></span
        >
      </p>
      <p v-if="failure" class="bad pad" role="alert">{{ failure }}</p>
      <p v-if="summary" class="pad">
        Where nothing moves ({{ percent(summary.still) }} of the frame) the picture changes by
        {{ summary.visible.toFixed(1) }} of 255 from frame to frame<template v-if="summary.boiling !== null"
          >; {{ percent(summary.boiling) }} of its noise is new each time: {{ tell(summary.boiling) }}</template
        >.
      </p>
      <DataTable
        v-if="flickers.length"
        :value="flickers"
        data-key="from"
        size="small"
        class="table num"
        :table-props="{ 'aria-label': 'Flicker' }"
      >
        <Column field="from" header="Frames" sortable>
          <template #body="{ data }">{{ data.from }} – {{ data.to }}</template>
        </Column>
        <Column field="flicker.still" header="Still" sortable class="right">
          <template #body="{ data }">{{ percent(data.flicker.still) }}</template>
        </Column>
        <Column field="flicker.visible" header="Change" sortable class="right">
          <template #body="{ data }">{{ data.flicker.visible.toFixed(1) }}</template>
        </Column>
        <Column field="flicker.boiling" header="New noise" sortable class="right">
          <template #body="{ data }">{{
            data.flicker.boiling === null ? '–' : percent(data.flicker.boiling)
          }}</template>
        </Column>
      </DataTable>
    </template>
    <p v-else class="soft pad">
      This picture is not part of a sequence. Import numbered files (name.1001.exr, name.1002.exr …) together, or render
      frames of the shot.
    </p>
  </section>
</template>

<style scoped>
.frames {
  font-size: var(--small);
  padding-bottom: 10px;
}
.findings li {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 8px;
  align-items: start;
  padding: 5px 12px;
  border-bottom: 1px solid var(--line);
}
figure {
  margin: 6px 8px 0;
}
figcaption {
  font-size: var(--small);
  padding-left: 4px;
}
.actions {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 8px 12px;
}
.pad {
  padding: 4px 12px;
}
.bad {
  color: var(--stop);
}
.table :deep(.right) {
  text-align: right;
}
.table :deep(.right .p-datatable-column-header-content) {
  justify-content: flex-end;
}
.actions > span {
  display: flex;
  gap: 8px;
  align-items: center;
}
.actions :deep(.p-progressbar) {
  width: 80px;
}
</style>
