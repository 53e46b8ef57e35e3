<script setup lang="ts">
/** The dials a finding speaks of: in both sheets, and what they need. */
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import type { DialNeed } from '../../../core/contracts/finding.ts';
import { dialAt, dialValue, isSameValue } from '../../../core/document/dials.ts';
import { valueAt } from '../../../core/document/patch.ts';
import { controlAt } from '../../../core/document/controls.ts';
import { isOfDocument, tellPointer } from '../../../core/document/pointers.ts';
import { useCurrent } from '../../stores/current.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import SweepDialog from '../trials/SweepDialog.vue';

const props = defineProps<{ needs: DialNeed[] }>();
const shot = useShot();
const view = useView();
const current = useCurrent();

const rows = computed(() => {
  const { document } = shot.state!;
  const { sheets } = document;
  return props.needs.map((need) => {
    if (isOfDocument(need.pointer)) {
      const value = valueAt(document, need.pointer);
      const found = controlAt(document, need.pointer);
      const label = found ? `${found.item.name}: ${found.control.label.toLowerCase()}` : tellPointer(need.pointer);
      return {
        ...need,
        label,
        preview: value,
        final: value,
        differs: false,
        control: found && { ...found.control, label },
      };
    }
    const [preview, final] = [dialValue(sheets.preview, need.pointer), dialValue(sheets.final, need.pointer)];
    return {
      ...need,
      label: dialAt(need.pointer).label,
      preview,
      final,
      differs: !isSameValue(preview, final),
      control: null,
    };
  });
});
const sweeping = ref<(typeof rows.value)[number] | null>(null);
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
        <Button
          v-if="data.control && data.sideBySide"
          unstyled
          class="bare link"
          title="What these values do, each rendered on the region"
          @click="sweeping = data"
          >{{ data.sideBySide.join(', ') }} side by side …</Button
        >
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
  <SweepDialog
    v-if="sweeping?.control"
    :control="sweeping.control"
    :value="sweeping.preview as number"
    :propose="sweeping.sideBySide"
    :sheet="current.sheetName"
    @closed="sweeping = null"
  />
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
