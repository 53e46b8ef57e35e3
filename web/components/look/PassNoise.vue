<script setup lang="ts">
/** Noise of every light pass that two pictures have, worked out when it is asked for. */
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import Button from 'primevue/button';
import { ref, watch } from 'vue';
import { percent, times } from '../../format.ts';
import { desk } from '../../picture/desk.ts';
import { useLook, type LookSource } from '../../stores/look.ts';

const props = defineProps<{ a: LookSource; b: LookSource }>();
const look = useLook();
const rows = ref<{ name: string; a: number; b: number }[]>([]);
const progress = ref<number | null>(null);
const isEmpty = ref(false);
let turn = 0;
watch(
  () => `${props.a.key} ${props.b.key} ${JSON.stringify(look.region)}`,
  () => {
    turn += 1;
    rows.value = [];
    progress.value = null;
    isEmpty.value = false;
  },
);

async function measure(): Promise<void> {
  const mine = ++turn;
  const { a, b } = props;
  const theirs = new Set(look.opened.get(b.key)?.layers.map(({ name }) => name));
  const wanted = look.layers.filter((one) => one.look === 'light' && one.role === 'light' && theirs.has(one.name));
  const found: typeof rows.value = [];
  progress.value = 0;
  for (const [i, { name }] of wanted.entries()) {
    const ask = (key: string) => desk.ask('noise', { key, layer: name, region: look.region }).catch(() => null);
    const [p, q] = [await ask(a.key), await ask(b.key)];
    if (mine !== turn) return;
    if (p && q && (p.all.grain > 0 || q.all.grain > 0)) found.push({ name, a: p.all.grain, b: q.all.grain });
    rows.value = [...found].sort((x, y) => y.a - x.a);
    progress.value = (i + 1) / wanted.length;
  }
  progress.value = null;
  isEmpty.value = found.length === 0;
}
</script>

<template>
  <p class="ask">
    <span v-if="isEmpty" class="dim">No light pass common to both is noisy.</span>
    <Button v-else-if="progress === null && !rows.length" severity="secondary" variant="outlined" @click="measure"
      >Measure noise of every pass</Button
    >
    <span v-else-if="progress !== null" role="status" class="num dim">{{ percent(progress) }} of the passes</span>
  </p>
  <DataTable
    v-if="rows.length"
    :value="rows"
    data-key="name"
    size="small"
    class="table"
    row-hover
    :table-props="{ 'aria-label': 'Noise by pass' }"
    sort-field="a"
    :sort-order="-1"
    @row-click="({ data }) => (look.layer = data.name)"
  >
    <Column field="name" header="Pass" sortable>
      <template #body="{ data }">{{ look.layerTitle(data.name) }}</template>
    </Column>
    <Column field="a" header="A" sortable class="right num">
      <template #body="{ data }">{{ data.a.toFixed(1) }}</template>
    </Column>
    <Column field="b" header="B" sortable class="right num">
      <template #body="{ data }">{{ data.b.toFixed(1) }}</template>
    </Column>
    <Column header="" class="right num">
      <template #body="{ data }">{{ data.a > 0 ? times(data.b / data.a) : '' }}</template>
    </Column>
  </DataTable>
</template>

<style scoped>
.ask {
  padding: 4px 12px;
}
.table :deep(.right) {
  text-align: right;
  white-space: nowrap;
}
.table :deep(.right .p-datatable-column-header-content) {
  justify-content: flex-end;
}
</style>
