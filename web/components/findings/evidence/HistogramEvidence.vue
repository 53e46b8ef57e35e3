<script setup lang="ts">
/** How often each value stands there. */
import { computed, defineAsyncComponent } from 'vue';
import type { Evidence } from '../../../../core/contracts/finding.ts';
import { CHART_LOOK } from '../../../chart-look.ts';

const props = defineProps<{ evidence: Extract<Evidence, { kind: 'histogram' }> }>();
// The chart library is most of the page's weight: it comes when a chart does.
const Chart = defineAsyncComponent(() => import('vue3-apexcharts'));
const short = (value: number) => String(+value.toPrecision(3));
const unit = computed(() => (props.evidence.x.unit ? ` ${props.evidence.x.unit}` : ''));
const options = computed(() => ({
  chart: CHART_LOOK,
  theme: { mode: 'dark' },
  colors: ['#a2a2a2'],
  plotOptions: { bar: { columnWidth: '96%' } },
  dataLabels: { enabled: false },
  grid: { borderColor: '#2e2e2e', padding: { left: 4, right: 14, top: -22, bottom: -14 } },
  xaxis: {
    categories: props.evidence.bins.map(
      ({ from, to }) => `${from === to ? short(from) : `${short(from)}–${short(to)}`}${unit.value}`,
    ),
    labels: { style: { fontSize: '12px' }, rotate: 0, hideOverlappingLabels: true },
  },
  yaxis: {
    tickAmount: 2,
    decimalsInFloat: 0,
    title: { text: 'pixels', style: { color: '#9a9a9a', fontSize: '12px', fontWeight: 400 } },
    labels: { style: { fontSize: '12px' } },
  },
  tooltip: { theme: 'dark', marker: { show: false } },
}));
const series = computed(() => [{ name: 'pixels', data: props.evidence.bins.map(({ count }) => count) }]);
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
