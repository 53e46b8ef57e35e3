<script setup lang="ts">
/** A sequence frame by frame: brightness, visible noise, outliers; what flickers where nothing moves. */
import { computed, ref, watch } from 'vue';
import Chart from 'vue3-apexcharts';
import { jumpsIn, type Flicker } from '../../../core/picture/sequence/flicker.ts';
import { percent, stops } from '../../format.ts';
import { desk } from '../../picture/desk.ts';
import { useLook } from '../../stores/look.ts';

const look = useLook();
const frames = computed(() => look.sequence?.frames ?? []);
const whole = computed(() => frames.value.filter(({ facts }) => facts.figures && facts.missingChunks === 0));
const cut = computed(() => frames.value.filter(({ facts }) => facts.missingChunks > 0));
const jumps = computed(() => jumpsIn(whole.value.map(({ frame, facts }) => ({ frame: frame!, shown: facts.figures!.shown })))); // prettier-ignore
const layersDiffer = computed(() => new Set(frames.value.map(({ facts }) => facts.layers.map(({ name }) => name).join())).size > 1); // prettier-ignore

const flickers = ref<{ from: number; to: number; flicker: Flicker }[]>([]);
const progress = ref<number | null>(null);
const failure = ref('');
let turn = 0;
watch(() => look.sequence?.set.id, () => { flickers.value = []; progress.value = null; failure.value = ''; turn++; }); // prettier-ignore

/** Frame after frame, those that follow each other and are whole. */
async function measure(): Promise<void> {
  const mine = ++turn;
  failure.value = '';
  const pairs = whole.value.slice(1).flatMap((b, i) => (b.frame! - whole.value[i].frame! === 1 ? [[whole.value[i], b] as const] : [])); // prettier-ignore
  const found: typeof flickers.value = [];
  progress.value = 0;
  try {
    for (const [a, b] of pairs) {
      for (const one of [a, b]) await look.open(look.sourceOf(`p${one.id}`)!);
      const flicker = await desk.ask('flicker', { a: `p${a.id}`, b: `p${b.id}` });
      if (mine !== turn) return;
      found.push({ from: a.frame!, to: b.frame!, flicker });
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
  const numbers = frames.value.map(({ frame }) => frame!);
  const list: number[] = [];
  for (let f = Math.min(...numbers); f <= Math.max(...numbers) && list.length < 5000; f++) list.push(f);
  return list;
});
const at = computed(() => new Map(whole.value.map((one) => [one.frame!, one.facts.figures!])));
const series = computed(() => [
  { name: 'noise', data: all.value.map((frame) => ({ x: frame, y: at.value.get(frame)?.noise.all.grain ?? null })) },
  { name: 'outliers', data: all.value.map((frame) => ({ x: frame, y: at.value.get(frame)?.outliers ?? null })) },
  { name: 'mean', data: all.value.map((frame) => ({ x: frame, y: at.value.get(frame)?.mean ?? null })) },
]);
const CHARTS = [
  { title: 'Visible noise, display steps after the lift', digits: 1 },
  { title: 'Outliers, pixels', digits: 0 },
  { title: 'Mean luminance, linear', digits: 4 },
];
const options = (digits: number) => ({
  chart: { id: undefined, animations: { enabled: false }, toolbar: { show: false }, zoom: { enabled: false }, background: 'transparent', fontFamily: 'Inter Variable', foreColor: '#9a9a9a', parentHeightOffset: 0 }, // prettier-ignore
  theme: { mode: 'dark' },
  legend: { show: false },
  dataLabels: { enabled: false },
  colors: ['#b5b5b5'],
  plotOptions: { bar: { columnWidth: '70%' } },
  grid: { borderColor: '#2e2e2e', padding: { left: 4, right: 4, top: -16, bottom: 0 } },
  tooltip: { theme: 'dark', y: { formatter: (y: number | null) => (y === null ? 'not there' : y.toFixed(digits)) } },
  xaxis: { type: 'category', labels: { style: { fontSize: '10px' } }, axisBorder: { show: false } },
  yaxis: { min: 0, tickAmount: 2, labels: { style: { fontSize: '10px' }, formatter: (y: number) => y.toFixed(digits) } }, // prettier-ignore
});
</script>

<template>
  <section class="frames" aria-label="Frames">
    <template v-if="look.sequence">
      <ul class="findings">
        <li v-if="look.sequence.missing.length">
          <span class="severity stop">stop</span>
          {{
            look.sequence.missing.length === 1
              ? `Frame ${look.sequence.missing[0]} is`
              : `Frames ${look.sequence.missing.slice(0, 12).join(', ')}${look.sequence.missing.length > 12 ? ' …' : ''} are`
          }}
          missing.
        </li>
        <li v-for="one in cut" :key="one.id">
          <span class="severity stop">stop</span
          ><span
            >Frame {{ one.frame }} is cut short: {{ one.facts.missingChunks }} chunks are missing.
            <button class="flat" @click="look.show(`p${one.id}`)">Show</button></span
          >
        </li>
        <li v-for="jump in jumps" :key="jump.frame">
          <span class="severity caution">caution</span> Frame {{ jump.frame }} is {{ stops(jump.stops) }} stops off the
          frames around it.
        </li>
        <li v-if="layersDiffer">
          <span class="severity caution">caution</span> Its frames do not all have the same layers.
        </li>
        <li v-if="!look.sequence.missing.length && !cut.length && !jumps.length && !layersDiffer" class="soft">
          All frames are there and whole; none jumps in brightness.
        </li>
      </ul>
      <figure v-for="(chart, i) in CHARTS" :key="chart.title">
        <figcaption class="dim">{{ chart.title }}</figcaption>
        <Chart type="bar" height="92" :options="options(chart.digits)" :series="[series[i]]" />
      </figure>
      <p class="actions">
        <button class="plain" :disabled="progress !== null" @click="measure">Measure flicker</button>
        <span v-if="progress !== null" role="status"
          ><progress :value="progress" max="1" aria-label="Measuring flicker"></progress>
          <span class="num">{{ percent(progress) }}</span>
          <button
            class="flat"
            @click="
              turn++;
              progress = null;
            "
          >
            Stop
          </button></span
        >
      </p>
      <p v-if="failure" class="bad pad" role="alert">{{ failure }}</p>
      <p v-if="summary" class="pad">
        Where nothing moves ({{ percent(summary.still) }} of the frame) the picture changes by
        {{ summary.visible.toFixed(1) }} display steps from frame to frame<template v-if="summary.boiling !== null"
          >; {{ percent(summary.boiling) }} of its noise is new each time: {{ tell(summary.boiling) }}</template
        >.
      </p>
      <table v-if="flickers.length" class="num">
        <thead>
          <tr>
            <th>Frames</th>
            <th>Still</th>
            <th>Change</th>
            <th>New noise</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ from, to, flicker } in flickers" :key="from">
            <td>{{ from }} – {{ to }}</td>
            <td>{{ percent(flicker.still) }}</td>
            <td>{{ flicker.visible.toFixed(1) }}</td>
            <td>{{ flicker.boiling === null ? '–' : percent(flicker.boiling) }}</td>
          </tr>
        </tbody>
      </table>
    </template>
    <p v-else class="soft pad">
      The picture that is shown is no frame of a sequence. Numbered files (name.1001.exr, name.1002.exr …) that are
      brought in together are one.
    </p>
  </section>
</template>

<style scoped>
.frames {
  font-size: 12px;
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
  font-size: 11px;
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
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  font-weight: 400;
  color: var(--dim);
  text-align: left;
}
th,
td {
  padding: 2px 12px;
}
</style>
