<script setup lang="ts">
/** The evidence of a finding, each kind in its own way, whatever family it is of. */
import type { Component } from 'vue';
import type { Evidence } from '../../../../core/contracts/finding.ts';
import CurveEvidence from './CurveEvidence.vue';
import HistogramEvidence from './HistogramEvidence.vue';
import LinesEvidence from './LinesEvidence.vue';
import MapEvidence from './MapEvidence.vue';
import PlacesEvidence from './PlacesEvidence.vue';
import SharesEvidence from './SharesEvidence.vue';
import SwatchesEvidence from './SwatchesEvidence.vue';
import TableEvidence from './TableEvidence.vue';

defineProps<{ evidence: Evidence[] }>();
const emit = defineEmits<{ place: [x: number, y: number] }>();
const KINDS: Record<Evidence['kind'], Component> = {
  curve: CurveEvidence,
  shares: SharesEvidence,
  histogram: HistogramEvidence,
  table: TableEvidence,
  map: MapEvidence,
  lines: LinesEvidence,
  places: PlacesEvidence,
  swatches: SwatchesEvidence,
};
</script>

<template>
  <component
    :is="KINDS[one.kind]"
    v-for="(one, i) in evidence"
    :key="i"
    :evidence="one"
    v-on="one.kind === 'places' || one.kind === 'lines' ? { place: (x: number, y: number) => emit('place', x, y) } : {}"
  />
</template>
