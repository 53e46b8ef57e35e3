<script setup lang="ts">
/** What each light does to a region: its part of the light, and how much of the region lies in its shadow. */
import Button from 'primevue/button';
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import type { ToldRegion, ToldRegionLight } from '../../../core/contracts/place.ts';
import { capital } from '../../../core/diagnose/words.ts';
import { metres } from '../../../core/intake/preflight/tell.ts';
import { percent } from '../../format.ts';
import { useView } from '../../stores/view.ts';

defineProps<{ told: ToldRegion }>();
const view = useView();

const edges = ({ penumbra }: ToldRegionLight) => penumbra && `${metres(+penumbra.metres.toPrecision(2))}, ${+penumbra.pixels.toPrecision(2)} px`; // prettier-ignore
const shadow = ({ contrast }: ToldRegionLight) => (contrast === null ? '–' : `${contrast.toFixed(1)} stops`);
</script>

<template>
  <DataTable
    :value="told.lights.slice(0, 12)"
    data-key="id"
    size="small"
    class="lights"
    aria-label="Lights of the region"
  >
    <Column header="Light">
      <template #body="{ data: light }: { data: ToldRegionLight }">
        <Button v-if="light.pointer" variant="link" class="name" @click="view.showDial(light.pointer)">{{
          capital(light.name)
        }}</Button>
        <template v-else>{{ capital(light.name) }}</template>
      </template>
    </Column>
    <Column header="Of the light">
      <template #body="{ data }: { data: ToldRegionLight }">{{ percent(data.share) }}</template>
    </Column>
    <Column header="In its shadow">
      <template #body="{ data }: { data: ToldRegionLight }">
        {{ percent(data.shaded) }}
        <span v-if="data.missing" class="bad">missing on {{ percent(data.missing) }}</span>
      </template>
    </Column>
    <Column header="Shadow">
      <template #body="{ data }: { data: ToldRegionLight }">
        {{ shadow(data) }}<span v-if="edges(data)" class="dim"> edge {{ edges(data) }}</span>
      </template>
    </Column>
  </DataTable>
</template>

<style scoped>
.lights {
  font-size: var(--small);
}
.name {
  padding: 0;
  font-weight: 400;
}
.bad {
  color: var(--stop);
}
</style>
