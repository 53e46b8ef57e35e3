<script setup lang="ts">
/** Time and memory of each frame of a sequence. */
import { computed } from 'vue';
import Chart from 'vue3-apexcharts';
import type { ShotLog } from '../../../core/contracts/intake.ts';
import { CHART_LOOK } from '../../chart-look.ts';

const props = defineProps<{ frames: ShotLog['frames'] }>();
const GB = 2 ** 30;
const hasMemory = computed(() => props.frames.some(({ peakMemory }) => peakMemory !== null));
const series = computed(() => [
  { name: 'seconds', type: 'column', data: props.frames.map(({ frame, seconds }) => ({ x: frame, y: seconds })) },
  ...(hasMemory.value
    ? [
        {
          name: 'memory',
          type: 'line',
          data: props.frames.map(({ frame, peakMemory }) => ({
            x: frame,
            y: peakMemory === null ? null : peakMemory / GB,
          })),
        },
      ]
    : []),
]);
const axis = (text: string, formatter: (y: number) => string, opposite = false) => ({
  min: 0,
  tickAmount: 2,
  opposite,
  title: { text, style: { fontSize: '12px', fontWeight: 400, color: '#9a9a9a' } },
  labels: { style: { fontSize: '12px' }, formatter },
});
const options = computed(() => ({
  chart: CHART_LOOK,
  theme: { mode: 'dark' },
  legend: { show: false },
  dataLabels: { enabled: false },
  stroke: { width: [0, 1.6] },
  colors: ['#8d8d8d', '#eec77d'],
  plotOptions: { bar: { columnWidth: '70%' } },
  grid: { borderColor: '#2e2e2e', padding: { left: 4, right: 4, top: -14, bottom: -8 } },
  tooltip: { theme: 'dark', shared: true },
  xaxis: { type: 'category', tickAmount: 10, labels: { style: { fontSize: '12px' } }, axisBorder: { show: false } },
  yaxis: [axis('seconds', (y) => y.toFixed(0)), ...(hasMemory.value ? [axis('GB', (y) => y.toFixed(1), true)] : [])],
}));
</script>

<template>
  <figure>
    <figcaption class="dim">
      Seconds a frame (bars){{ hasMemory ? ' and peak memory, GB (line)' : '' }}, {{ frames.length }} frames
    </figcaption>
    <Chart height="130" :options="options" :series="series" />
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
