<script setup lang="ts">
/** The environment as a light: where its brightest part is, and what it brings here as it is turned. */
import InputNumber from 'primevue/inputnumber';
import { computed, defineAsyncComponent } from 'vue';
import type { ToldEnvironment } from '../../../core/contracts/place.ts';
import { CHART_LOOK } from '../../chart-look.ts';
import { percent } from '../../format.ts';

const { told } = defineProps<{ told: ToldEnvironment }>();
const emit = defineEmits<{ turn: [rotation: number] }>();
// The chart library is most of the page's weight: it comes when a chart does.
const Chart = defineAsyncComponent(() => import('vue3-apexcharts'));

const most = computed(() => told.turned.reduce((best, one) => (one.stops > best.stops ? one : best)));
const stops = computed(() => told.turned.map((one) => one.stops));
const halves = (round: (n: number) => number, least: number) => round(2 * (least < 0 ? Math.min(least, ...stops.value) : Math.max(least, ...stops.value))) / 2; // prettier-ignore
const isEven = computed(() => Math.max(...stops.value) - Math.min(...stops.value) < 0.1);
const signed = (stops: number) => `${stops < 0 ? '−' : '+'}${Math.abs(stops).toFixed(1)} stops`;
const round = (degrees: number) => Math.round(degrees);
const TITLE = { color: '#9a9a9a', fontSize: '12px', fontWeight: 400 };
const options = computed(() => ({
  chart: {
    ...CHART_LOOK,
    events: { markerClick: (_: unknown, __: unknown, { dataPointIndex }: { dataPointIndex: number }) => emit('turn', told.turned[dataPointIndex % told.turned.length].rotation) }, // prettier-ignore
  },
  theme: { mode: 'dark' },
  colors: ['#e9e9e9'],
  stroke: { width: 1.6, curve: 'straight' },
  markers: {
    size: 2.5,
    // Told by shape as well as by colour: where it stands, and where it brings most.
    discrete: [
      { dataPointIndex: 0, fillColor: '#ff9c8a', shape: 'square' },
      { dataPointIndex: told.turned.indexOf(most.value), fillColor: '#d6dc5c', shape: 'diamond' },
    ].map((one) => ({ seriesIndex: 0, strokeColor: one.fillColor, size: 5, ...one })),
  },
  grid: { borderColor: '#2e2e2e', padding: { left: 4, right: 14, top: -22, bottom: -10 } },
  legend: { show: false },
  tooltip: { theme: 'dark', marker: { show: false }, x: { formatter: (x: number) => `rotation ${round(x)}°` }, y: { formatter: signed, title: { formatter: () => 'here' } } }, // prettier-ignore
  xaxis: { type: 'numeric', min: told.rotation, max: told.rotation + 360, tickAmount: 6, title: { text: 'rotation, degrees', style: TITLE, offsetY: -4 }, labels: { style: { fontSize: '12px' }, offsetY: -3, formatter: (x: string) => String(round(Number(x))) }, axisBorder: { show: false }, tooltip: { enabled: false } }, // prettier-ignore
  // A scale of half a stop at least, so that nothing is not drawn as something.
  yaxis: { min: halves(Math.floor, -0.5), max: halves(Math.ceil, 0.5), tickAmount: 2, decimalsInFloat: 1, title: { text: 'stops here', style: TITLE }, labels: { style: { fontSize: '12px' }, offsetX: -6 } }, // prettier-ignore
}));
/** All around, so that the end is the beginning. */
const series = computed(() => {
  const points = told.turned.map(({ rotation, stops }) => ({ x: rotation, y: +stops.toFixed(3) }));
  return [{ name: 'here', data: [...points, { ...points[0], x: told.rotation + 360 }] }];
});
</script>

<template>
  <section class="turns" aria-label="The environment as a light">
    <h3>Turn the environment</h3>
    <p class="soft">
      {{ told.hasSun ? 'Beside its sun, its' : 'Its' }} brightest 1 % brings {{ percent(told.brightest.share) }} of its
      light, from {{ told.brightest.elevation.toFixed(0) }}° above the horizon, azimuth
      {{ told.brightest.azimuth.toFixed(0) }}°.
      <template v-if="told.adds !== null">It adds {{ told.adds.toFixed(1) }} stops here.</template>
    </p>
    <div
      class="room"
      role="img"
      :aria-label="`Direct light here by rotation: most at ${round(most.rotation)}°, ${signed(most.stops)}`"
    >
      <Chart type="line" height="132" :options="options" :series="series" />
    </div>
    <label class="soft"
      >Rotation
      <InputNumber
        :model-value="told.rotation"
        :max-fraction-digits="1"
        :step="5"
        show-buttons
        suffix="°"
        size="small"
        aria-label="Rotation of the environment, degrees"
        @update:model-value="(value: number | null) => value !== null && emit('turn', value)"
      />
      <span class="dim">{{
        isEven
          ? 'this point gets the same light at any rotation'
          : `most light here at ${round(most.rotation)}°: ${signed(most.stops)}`
      }}</span>
    </label>
  </section>
</template>

<style scoped>
.turns {
  display: grid;
  gap: 6px;
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
.room {
  height: 132px;
  margin: 0 -6px 0 0;
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
}
label :deep(input) {
  width: 84px;
  text-align: right;
}
</style>
