<script setup lang="ts">
/** Noise of one picture or two, in shadows, midtones and highlights. */
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import { computed } from 'vue';
import { ZONE_ENDS, ZONES, type PictureNoise } from '../../../core/picture/noise.ts';
import { percent, radiance } from '../../format.ts';

const props = defineProps<{ noises: { name: string; noise: PictureNoise }[] }>();
const told = [`below ${ZONE_ENDS[0]}`, `${ZONE_ENDS[0]} to ${ZONE_ENDS[1]}`, `${ZONE_ENDS[1]} and above`];
const rows = computed(() =>
  props.noises.map(({ name, noise: { zones, all } }) => ({
    name,
    all: all.grain.toFixed(1),
    ...Object.fromEntries(ZONES.map((zone) => [zone, zones[zone].share > 0.005 ? zones[zone].grain.toFixed(1) : '–'])),
    titles: Object.fromEntries(
      ZONES.map((zone) => [
        zone,
        `σ ${radiance(zones[zone].sigma)} linear, ${percent(zones[zone].share)} of the pixels`,
      ]),
    ),
  })),
);
</script>

<template>
  <DataTable :value="rows" data-key="name" size="small" class="table" :table-props="{ 'aria-label': 'Noise by zone' }">
    <Column field="name" header="" />
    <Column v-for="(zone, i) in ZONES" :key="zone" :field="zone" class="right num">
      <template #header
        ><span :title="`luminance ${told[i]}`">{{ zone }}</span></template
      >
      <template #body="{ data }"
        ><span :title="data.titles[zone]">{{ data[zone] }}</span></template
      >
    </Column>
    <Column field="all" header="all" class="right num" />
    <template #footer>
      <span class="dim"
        >Noise in steps of 255, shadows boosted: under 1 unseen, 2 hard to see, 5 plain{{
          noises.some(({ noise }) => noise.isEstimated) ? '; estimated from the picture where it has no error pass' : ''
        }}</span
      >
    </template>
  </DataTable>
</template>

<style scoped>
.table :deep(.right) {
  text-align: right;
  white-space: nowrap;
}
.table :deep(.right .p-datatable-column-header-content) {
  justify-content: flex-end;
}
.table :deep(.p-datatable-footer) {
  padding: 3px 12px;
  background: none;
  border: 0;
  font-weight: 400;
  font-size: var(--small);
}
</style>
