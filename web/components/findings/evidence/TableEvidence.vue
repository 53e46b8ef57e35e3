<script setup lang="ts">
/** What was measured, in rows. */
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import { computed } from 'vue';
import type { Evidence } from '../../../../core/contracts/finding.ts';

const props = defineProps<{ evidence: Extract<Evidence, { kind: 'table' }> }>();
/** Rows that are shown at once. */
const PAGE = 8;
const rows = computed(() =>
  props.evidence.rows.map((row) => Object.fromEntries(row.map((cell, i) => [`c${i}`, cell ?? '']))),
);
</script>

<template>
  <figure>
    <figcaption class="dim">{{ evidence.title }}</figcaption>
    <DataTable
      :value="rows"
      size="small"
      :rows="PAGE"
      :paginator="rows.length > PAGE"
      :table-props="{ 'aria-label': evidence.title }"
      :pt="{ tableContainer: { tabindex: 0, role: 'region', 'aria-label': evidence.title } }"
    >
      <Column v-for="(column, i) in evidence.columns" :key="i" :field="`c${i}`" :header="column" />
    </DataTable>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  font-size: var(--small);
}
figcaption {
  font-size: var(--small);
}
figure :deep(:is(th, td)) {
  padding: 3px 5px;
}
</style>
