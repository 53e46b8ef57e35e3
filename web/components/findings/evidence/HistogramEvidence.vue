<script setup lang="ts">
/** How often each value stands there. */
import { computed, defineAsyncComponent } from 'vue';
import type { Evidence } from '../../../../core/contracts/finding.ts';
import { CHART_LOOK } from '../../../chart-look.ts';

const props = defineProps<{ evidence: Extract<Evidence, { kind: 'histogram' }> }>();
// The chart library is most of the page's weight: it comes when a chart does.
const Chart = defineAsyncComponent(() => import('vue3-apexcharts'));
const short = (value: number, digits = 3) => String(+value.toPrecision(digits));
const counts = computed(() => props.evidence.counts ?? 'pixels');
const unit = computed(() => (props.evidence.x.unit ? ` ${props.evidence.x.unit}` : ''));
/** Bins whose both ends can be read below them. */
const WIDE = 20;
const label = ({ from, to }: { from: number; to: number }) =>
  `${from === to || props.evidence.bins.length > WIDE ? short(from, 2) : `${short(from)}–${short(to)}`}${unit.value}`;
/** Times the usual bin that the fullest one is, from which on a plain scale shows it alone. */
const STEEP = 30;
const isSteep = computed(() => {
  const filled = props.evidence.bins.map(({ count }) => count).filter((count) => count > 0).sort((a, b) => a - b); // prettier-ignore
  return filled.length > 2 && filled[filled.length - 1] > STEEP * filled[filled.length >> 1];
});
/** Marks stand at the bin that holds them, or at the nearest end. */
const marks = computed(() =>
  (props.evidence.marks ?? []).flatMap(({ x, label: text, kind }) => {
    const { bins } = props.evidence;
    const bin = bins.find(({ to }) => x <= to) ?? bins.at(-1);
    const colour = kind === 'now' ? '#e6c34f' : '#d7e04b';
    return bin ? [{ x: label(bin), borderColor: colour, label: { text, orientation: 'horizontal', ...(bins.indexOf(bin) > bins.length / 2 ? { textAnchor: 'end', offsetX: -4 } : { textAnchor: 'start', offsetX: 4 }), style: { background: '#242424', color: colour } } }] : []; // prettier-ignore
  }),
);
const options = computed(() => ({
  annotations: { xaxis: marks.value },
  chart: CHART_LOOK,
  theme: { mode: 'dark' },
  colors: ['#a2a2a2'],
  plotOptions: { bar: { columnWidth: '96%' } },
  dataLabels: { enabled: false },
  grid: { borderColor: '#2e2e2e', padding: { left: 4, right: 14, top: -22, bottom: -14 } },
  xaxis: {
    categories: props.evidence.bins.map(label),
    tickPlacement: 'on',
    ...(props.evidence.bins.length > WIDE ? { tickAmount: 6 } : {}),
    labels: { style: { fontSize: '12px' }, rotate: 0, hideOverlappingLabels: true },
  },
  yaxis: {
    tickAmount: 2,
    decimalsInFloat: 0,
    logarithmic: isSteep.value,
    title: { text: counts.value, style: { color: '#9a9a9a', fontSize: '12px', fontWeight: 400 } },
    labels: {
      style: { fontSize: '12px' },
      formatter: (count: number) => (count >= 1000 ? `${Math.round(count / 1000)}k` : String(Math.round(count))),
    },
  },
  tooltip: { theme: 'dark', marker: { show: false } },
}));
const series = computed(() => [
  { name: counts.value, data: props.evidence.bins.map(({ count }) => (isSteep.value && count === 0 ? null : count)) },
]);
</script>

<template>
  <figure>
    <figcaption class="dim">{{ evidence.title }}</figcaption>
    <div role="img" :aria-label="`${evidence.title}: ${evidence.bins.length} bins`">
      <Chart type="bar" height="124" :options="options" :series="series" />
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
</style>
