<script setup lang="ts">
/** A pass that shows it, and what its values mean. */
import Button from 'primevue/button';
import type { Evidence } from '../../../../core/contracts/finding.ts';
import { useView } from '../../../stores/view.ts';

defineProps<{ evidence: Extract<Evidence, { kind: 'map' }> }>();
const view = useView();
</script>

<template>
  <p class="map">
    <Button :label="evidence.title" size="small" text @click="view.pass = evidence.pass" />
    <span v-for="entry in evidence.legend" :key="entry.label" class="dim">{{ entry.value }} {{ entry.label }}</span>
  </p>
</template>

<style scoped>
.map {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: baseline;
  font-size: var(--small);
}
</style>
