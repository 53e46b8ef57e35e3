<script setup lang="ts">
/** A figure and the rays of each step, in the order of the control; filled points are what is chosen and what stands now. */
import { computed, defineAsyncComponent } from 'vue';
import { CHART_LOOK } from '../../chart-look.ts';

const props = defineProps<{
  title: string;
  points: { label: string; isNow: boolean; value: number | null; rays: number | null }[];
  /** What the value is called, and how it is told. */
  figure: string;
  tell: (value: number) => string;
  /** Label of the step that is chosen. */
  chosen: string | null;
  /** Numbers, with a way from one to the next; choices have none. */
  isOrdered: boolean;
}>();
// The chart library is most of the page's weight: it comes when a chart does.
const Chart = defineAsyncComponent(() => import('vue3-apexcharts'));

const [FIGURE, RAYS] = ['#e9e9e9', '#9a9a9a'];
const axis = (text: string, color: string, opposite: boolean, min?: number) => ({
  seriesName: text,
  opposite,
  min,
  tickAmount: 2,
  decimalsInFloat: 1,
  title: { text, style: { color, fontSize: '12px', fontWeight: 400 } },
  labels: { style: { fontSize: '12px', colors: color } },
});
/** From 0, unless it goes below. */
const least = computed(() => Math.min(0, ...props.points.map(({ value }) => value ?? 0)));
/** A long name in lines, at its hyphens and spaces. */
const lines = (label: string) => (label.length > 10 ? label.split(/(?<=-)|\s/) : label);
const names = computed(() => props.points.map(({ label, isNow }) => lines(isNow ? `${label} now` : label)));
const options = computed(() => ({
  chart: CHART_LOOK,
  theme: { mode: 'dark' },
  colors: [FIGURE, RAYS],
  stroke: { width: props.isOrdered ? 1.6 : 0, curve: 'straight', dashArray: [0, 4] },
  markers: {
    size: props.isOrdered ? 3 : 4,
    // A hollow point is read off the other axis.
    fillOpacity: [1, 0.25],
    discrete: props.points.flatMap(({ label, isNow }, dataPointIndex) => {
      if (!isNow && label !== props.chosen) return [];
      const fillColor = isNow ? '#ff9c8a' : '#d6dc5c';
      return [0, 1].map((seriesIndex) => ({ seriesIndex, dataPointIndex, fillColor, strokeColor: fillColor, size: 5 }));
    }),
  },
  grid: {
    borderColor: '#2e2e2e',
    padding: { left: 4, right: 4, top: -20, bottom: names.value.some(Array.isArray) ? 4 : -8 },
  },
  legend: { show: false },
  tooltip: { theme: 'dark', marker: { show: false }, y: { formatter: (y: number) => y.toFixed(2) } },
  xaxis: {
    type: 'category',
    categories: names.value,
    labels: { style: { fontSize: '12px' }, offsetY: -3, hideOverlappingLabels: props.isOrdered, rotate: 0 },
    axisBorder: { show: false },
    axisTicks: { color: '#353535' },
    tooltip: { enabled: false },
  },
  yaxis: [axis(props.figure, FIGURE, false, least.value), axis('rays ×', RAYS, true, 0)],
}));
const series = computed(() => [
  { name: props.figure, data: props.points.map(({ value }) => value) },
  { name: 'rays ×', data: props.points.map(({ rays }) => rays) },
]);
const summary = computed(() => props.points.map((p) => `${p.label}: ${props.figure} ${p.value === null ? 'unknown' : props.tell(p.value)}, rays × ${p.rays?.toFixed(2)}`).join('; ')); // prettier-ignore
</script>

<template>
  <div class="room" role="img" :aria-label="`${title}. ${summary}`">
    <Chart v-if="points.length > 1" type="line" height="118" :options="options" :series="series" />
    <p v-else class="dim">Figures appear here as soon as they are predicted.</p>
  </div>
</template>

<style scoped>
.room {
  height: 118px;
  min-width: 0;
}
</style>
