<script setup lang="ts">
/** The curve a finding was concluded from, with now, knee and enough marked on it. */
import { computed, defineAsyncComponent } from 'vue';
import type { Evidence } from '../../../../core/contracts/finding.ts';
import { CHART_LOOK } from '../../../chart-look.ts';

const props = defineProps<{ evidence: Extract<Evidence, { kind: 'curve' }> }>();
const isLogarithmic = computed(() => props.evidence.x.scale === 'logarithmic');
/** The chart library has straight axes only: of a logarithmic one it is given the logarithms. */
const put = (x: number) => (isLogarithmic.value ? Math.log10(Math.max(1e-9, x)) : x);
const read = (x: number) => (isLogarithmic.value ? 10 ** x : x);
const first = computed(() => props.evidence.series[0].points.map(([x, y]) => [put(x), y]));
// The chart library is most of the page's weight: it comes when a chart does.
const Chart = defineAsyncComponent(() => import('vue3-apexcharts'));

/** Told by shape as well as by colour. */
const MARK_SHAPE = { now: 'square', override: 'triangle', knee: 'circle', enough: 'diamond' };
const MARK_COLOUR = { now: '#ff9c8a', override: '#eec77d', knee: '#b9b9b9', enough: '#d6dc5c' };

const yAt = (x: number) => {
  const points = first.value;
  const next = points.findIndex(([px]) => px >= x);
  if (next <= 0) return points[Math.max(0, next)]?.[1] ?? 0;
  const [[x0, y0], [x1, y1]] = [points[next - 1], points[next]];
  return y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
};

const last = computed(() => first.value.at(-1)?.[0] ?? 1);
const least = computed(() => (isLogarithmic.value ? (first.value[0]?.[0] ?? 0) : 0));
const marks = computed(() => props.evidence.marks.map((mark) => ({ ...mark, x: put(mark.x) })));
const unit = (text?: string) => (text ? ` ${text}` : '');
const short = (x: number) => (x >= 10 ? x.toFixed(0) : String(+x.toPrecision(2)));
/** A round distance between ticks, about six of them. */
const step = computed(() => {
  const rough = last.value / 6;
  const power = 10 ** Math.floor(Math.log10(rough));
  return Math.max(
    1,
    [1, 2, 4, 5, 10].map((n) => n * power).find((n) => n >= rough)!,
  );
});

const TITLE = { color: '#9a9a9a', fontSize: '12px', fontWeight: 400 };
const options = computed(() => ({
  chart: { ...CHART_LOOK, type: 'line' },
  theme: { mode: 'dark' },
  stroke: { width: 1.6, curve: 'straight', colors: ['#e9e9e9', '#9a9a9a'], dashArray: [0, 4] },
  colors: ['#e9e9e9', '#9a9a9a'],
  grid: { borderColor: '#2e2e2e', padding: { left: 4, right: 14, top: -22, bottom: -8 } },
  legend: { show: false },
  tooltip: {
    theme: 'dark',
    x: { formatter: (x: number) => `${props.evidence.x.label} ${short(read(x))}${unit(props.evidence.x.unit)}` },
    y: {
      formatter: (y: number) => `${y.toFixed(1)}${unit(props.evidence.y.unit)}`,
      title: { formatter: (name: string) => name },
    },
    marker: { show: false },
  },
  xaxis: {
    type: 'numeric',
    ...(isLogarithmic.value
      ? { min: least.value, max: last.value, tickAmount: 6 }
      : {
          min: 0,
          max: Math.ceil(last.value / step.value) * step.value,
          tickAmount: Math.ceil(last.value / step.value),
        }),
    title: { text: `${props.evidence.x.label}${unit(props.evidence.x.unit)}`, style: TITLE, offsetY: -7 },
    labels: { style: { fontSize: '12px' }, offsetY: -3, formatter: (x: string) => short(read(Number(x))) },
    axisBorder: { show: false },
    axisTicks: { color: '#353535' },
    tooltip: { enabled: false },
  },
  yaxis: {
    min: 0,
    max: props.evidence.y.max,
    tickAmount: 2,
    title: { text: `${props.evidence.y.label}${unit(props.evidence.y.unit)}`, style: TITLE },
    labels: { style: { fontSize: '12px' }, offsetX: -6, formatter: short },
  },
  annotations: {
    xaxis: marks.value.map((mark) => ({
      x: mark.x,
      strokeDashArray: mark.kind === 'override' ? 3 : 0,
      borderColor: MARK_COLOUR[mark.kind],
      opacity: 0.6,
    })),
    points: marks.value.map((mark, i) => ({
      x: mark.x,
      y: yAt(mark.x),
      marker: {
        size: 4,
        shape: MARK_SHAPE[mark.kind],
        strokeWidth: mark.kind === 'knee' ? 1.5 : 0,
        strokeColor: MARK_COLOUR[mark.kind],
        fillColor: mark.kind === 'knee' ? '#1d1d1d' : MARK_COLOUR[mark.kind],
      },
      label: {
        text: mark.label,
        borderWidth: 0,
        offsetX: i === marks.value.length - 1 ? 4 : -2,
        // Below where the curve is high; elsewhere neighbours stand at two heights.
        offsetY: yAt(mark.x) > 0.7 * (props.evidence.y.max ?? 1) || i % 2 === 0 ? 26 : 2,
        textAnchor: i === 0 ? 'start' : 'middle',
        style: {
          background: 'rgba(29,29,29,0.85)',
          color: '#e9e9e9',
          fontSize: '12px',
          padding: { left: 3, right: 3, top: 1, bottom: 1 },
        },
      },
    })),
  },
}));
const line = (name: string, points: [number, number][]) => ({ name, data: points.map(([x, y]) => ({ x: put(x), y })) });
const series = computed(() => props.evidence.series.map(({ label, points }) => line(label, points)));
const others = computed(() => props.evidence.series.slice(1).map(({ label }) => label));
</script>

<template>
  <figure>
    <figcaption class="dim">
      {{ evidence.title }}<template v-if="others.length">; broken line: {{ others.join(', ') }}</template>
    </figcaption>
    <div class="room" role="img" :aria-label="`${evidence.title}: ${evidence.marks.map((m) => m.label).join(', ')}`">
      <Chart type="line" height="148" :options="options" :series="series" />
    </div>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
figcaption {
  font-size: var(--small);
}
.room {
  height: 148px;
  margin: 0 -6px;
}
</style>
