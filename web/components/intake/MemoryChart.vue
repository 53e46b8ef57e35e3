<script setup lang="ts">
/** Memory over the time of a render, its peak told. */
import { computed } from 'vue';
import Chart from 'vue3-apexcharts';
import type { ShotLog } from '../../../core/contracts/intake.ts';
import { CHART_LOOK } from '../../chart-look.ts';

const props = defineProps<{ memory: NonNullable<ShotLog['memory']>; timed: boolean }>();

const GB = 2 ** 30;
const series = computed(() => [
  { name: 'memory', data: props.memory.curve.map(({ seconds, bytes }) => [seconds, bytes / GB]) },
]);
const options = computed(() => ({
  chart: { ...CHART_LOOK, type: 'area' },
  theme: { mode: 'dark' },
  dataLabels: { enabled: false },
  stroke: { width: 1.4, curve: 'straight', colors: ['#e9e9e9'] },
  fill: { type: 'solid', colors: ['#4a4a4a'], opacity: 0.5 },
  grid: { borderColor: '#2e2e2e', padding: { left: 4, right: 10, top: -18, bottom: -12 } },
  tooltip: {
    theme: 'dark',
    x: { formatter: (x: number) => (props.timed ? `${x.toFixed(0)} s` : `line ${x.toFixed(0)}`) },
    y: { formatter: (y: number) => `${y.toFixed(2)} GB`, title: { formatter: () => '' } },
    marker: { show: false },
  },
  xaxis: {
    type: 'numeric',
    decimalsInFloat: 0,
    tickAmount: 4,
    labels: { style: { fontSize: '12px' }, offsetY: -3 },
    axisBorder: { show: false },
    axisTicks: { color: '#353535' },
    tooltip: { enabled: false },
  },
  yaxis: {
    min: 0,
    tickAmount: 2,
    labels: { style: { fontSize: '12px' }, formatter: (y: number) => `${y.toFixed(1)}` },
  },
}));
</script>

<template>
  <figure>
    <figcaption class="dim">
      memory, GB, over {{ timed ? 'seconds' : 'lines' }}; peak {{ (memory.peak / GB).toFixed(2) }}
    </figcaption>
    <Chart type="area" height="110" :options="options" :series="series" />
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  min-width: 0;
}
figcaption {
  font-size: var(--small);
}
</style>
