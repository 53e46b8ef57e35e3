<script setup lang="ts">
/** The dials a finding speaks of: in both sheets, and what they need. */
import { computed } from 'vue';
import type { DialNeed } from '../../../core/contracts/finding.ts';
import { dialAt, dialValue } from '../../../core/document/dials.ts';
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
    return { ...need, label: dialAt(need.pointer).label, preview, final, differs: preview !== final };
  });
});
</script>

<template>
  <table>
    <thead>
      <tr>
        <th></th>
        <th>preview</th>
        <th>final</th>
        <th>needs</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.pointer">
        <th>
          <button class="bare link" title="Show the control" @click="view.showDial(row.pointer)">
            {{ row.label }}
          </button>
          <span v-if="row.note" class="tag">{{ row.note }}</span>
        </th>
        <td class="num">{{ row.preview }}</td>
        <td class="num" :class="{ differs: row.differs }">{{ row.final }}</td>
        <td class="num need">{{ row.needs ?? '' }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 12.5px;
}
th {
  font-weight: 400;
  text-align: left;
  color: var(--soft);
  padding: 3px 0;
}
thead th {
  color: var(--dim);
  font-size: 11px;
  text-align: right;
}
td {
  text-align: right;
  width: 56px;
}
tbody tr + tr > * {
  border-top: 1px solid #2c2c2c;
}
.link {
  border-bottom: 1px dotted #6a6a6a;
  margin-right: 6px;
}
.link:hover {
  color: var(--text);
}
.need {
  font-weight: 600;
}
</style>
