<script setup lang="ts">
/** Visible noise of one picture or two, in shadows, midtones and highlights. */
import { ZONE_ENDS, ZONES, type PictureNoise } from '../../../core/picture/noise.ts';
import { percent, radiance } from '../../format.ts';

defineProps<{ noises: { name: string; noise: PictureNoise }[] }>();
const told = [`below ${ZONE_ENDS[0]}`, `${ZONE_ENDS[0]} to ${ZONE_ENDS[1]}`, `${ZONE_ENDS[1]} and above`];
</script>

<template>
  <table>
    <caption class="dim">
      Visible noise, display steps of 255 after the lift{{
        noises.some(({ noise }) => noise.isEstimated) ? '; estimated from the picture where no error came along' : ''
      }}
    </caption>
    <thead>
      <tr>
        <th></th>
        <th v-for="(zone, i) in ZONES" :key="zone" class="right" :title="`luminance ${told[i]}`">{{ zone }}</th>
        <th class="right">all</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in noises" :key="one.name">
        <th>{{ one.name }}</th>
        <td
          v-for="zone in ZONES"
          :key="zone"
          class="right num"
          :title="`σ ${radiance(one.noise.zones[zone].sigma)} linear, ${percent(one.noise.zones[zone].share)} of the pixels`"
        >
          {{ one.noise.zones[zone].share > 0.005 ? one.noise.zones[zone].grain.toFixed(1) : '–' }}
        </td>
        <td class="right num">{{ one.noise.all.grain.toFixed(1) }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 12px;
}
caption {
  caption-side: bottom;
  text-align: left;
  font-size: 11px;
  padding: 2px 12px;
}
th {
  font-weight: 400;
  text-align: left;
  color: var(--dim);
}
th,
td {
  padding: 2px 6px;
}
th:first-child {
  padding-left: 12px;
}
:is(th, td):last-child {
  padding-right: 14px;
}
.right {
  text-align: right;
}
</style>
