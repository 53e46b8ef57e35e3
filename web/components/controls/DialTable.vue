<script setup lang="ts">
/** The dials a finding speaks of: in both sheets, and what they need. */
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import Button from 'primevue/button';
import { computed } from 'vue';
import type { DialNeed } from '../../../core/contracts/finding.ts';
import { dialAt, dialValue, isSameValue } from '../../../core/document/dials.ts';
import { valueAt } from '../../../core/document/patch.ts';
import { isOfDocument, tellPointer } from '../../../core/document/pointers.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';

const props = defineProps<{ needs: DialNeed[] }>();
const shot = useShot();
const view = useView();

const rows = computed(() => {
  const { document } = shot.state!;
  const { sheets } = document;
  return props.needs.map((need) => {
    if (isOfDocument(need.pointer)) {
      const value = valueAt(document, need.pointer);
      return { ...need, label: tellPointer(need.pointer), preview: value, final: value, differs: false };
    }
    const [preview, final] = [dialValue(sheets.preview, need.pointer), dialValue(sheets.final, need.pointer)];
    return { ...need, label: dialAt(need.pointer).label, preview, final, differs: !isSameValue(preview, final) };
  });
});
</script>

<template>
  <DataTable
    :value="rows"
    data-key="pointer"
    size="small"
    :table-props="{ 'aria-label': 'Controls it is about' }"
    class="dials"
  >
    <Column header="">
      <template #body="{ data }">
        <Button unstyled class="bare link" title="Show the control" @click="view.showDial(data.pointer)">{{
          data.label
        }}</Button>
        <span v-if="data.note" class="tag">{{ data.note }}</span>
      </template>
    </Column>
    <Column field="preview" header="preview" class="num" />
    <Column header="final" class="num">
      <template #body="{ data }"
        ><span :class="{ differs: data.differs }">{{ data.final }}</span></template
      >
    </Column>
    <Column header="needs" class="num need">
      <template #body="{ data }">{{ data.needs ?? '' }}</template>
    </Column>
  </DataTable>
</template>

<style scoped>
.dials {
  font-size: var(--small);
}
.dials :deep(.num) {
  text-align: right;
}
.dials :deep(.num .p-datatable-column-header-content) {
  justify-content: flex-end;
}
.dials :deep(:is(th, td):first-child) {
  padding-left: 0;
}
.link {
  border-bottom: 1px dotted #6a6a6a;
  margin-right: 6px;
}
.dials :deep(td.need) {
  font-weight: 600;
}
</style>
