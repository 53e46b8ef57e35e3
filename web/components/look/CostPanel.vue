<script setup lang="ts">
/** Where time and samples went: a scale over the picture, and the hottest objects and materials as a table. */
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import SelectButton from 'primevue/selectbutton';
import { computed, ref, watch } from 'vue';
import type { Hot } from '../../../core/picture/heat.ts';
import { percent, radiance } from '../../format.ts';
import { desk } from '../../picture/desk.ts';
import { useLook } from '../../stores/look.ts';
import { useShot } from '../../stores/shot.ts';

const look = useLook();
const shot = useShot();
const find = (...patterns: RegExp[]) => look.layers.find((one) => patterns.some((pattern) => pattern.test(one.name)))?.name ?? null; // prettier-ignore
const passes = computed(() =>
  [
    { name: find(/^cost$/i, /rays/i), told: 'Rays per sample' },
    { name: find(/^time$/i, /seconds|rendertime/i), told: 'Time per sample' },
    { name: find(/^samples$/i, /samplecount/i), told: 'Samples' },
    { name: find(/^error\.beauty$/i, /^(variance|noise|stddev)/i), told: 'Standard error' },
  ].filter((one): one is { name: string; told: string } => one.name !== null),
);
const ids = computed(() => (['object', 'material'] as const).flatMap((name) => (look.layers.some((one) => one.name === name) ? [name] : []))); // prettier-ignore
const by = ref<'object' | 'material'>('object');
const hot = ref<Hot[]>([]);
const failure = ref('');
/** Rows beyond which a share is no longer worth a look. */
const MOST = 30;
const cost = computed(() => passes.value.find(({ told }) => /Rays|Time/.test(told))?.name ?? null);
watch(
  () => `${look.shown?.key} ${look.information?.done} ${by.value} ${cost.value}`,
  async () => {
    hot.value = [];
    failure.value = '';
    if (!look.shown || look.information?.done !== 1 || !cost.value || !ids.value.includes(by.value)) return;
    try {
      hot.value = await desk.ask('heat', { key: look.shown.key, ids: by.value, cost: cost.value });
    } catch (error) {
      failure.value = (error as Error).message;
    }
  },
  { immediate: true },
);
function nameOf(id: number): string {
  if (id === 0) return 'background';
  const part = by.value === 'object' ? 'objects' : 'materials';
  const items = look.shown?.render ? shot.state?.document[part] : undefined;
  const key = Object.keys(items ?? {}).sort()[id - 1];
  return (key !== undefined && items?.[key].name) || key || `${by.value} ${id}`;
}
const named = computed(() => hot.value.slice(0, MOST).map((one) => ({ ...one, name: nameOf(one.id) })));
</script>

<template>
  <section class="cost" aria-label="Cost">
    <div v-if="passes.length" class="passes">
      <SelectButton
        :model-value="look.shownLayer?.name"
        :options="passes"
        option-label="told"
        option-value="name"
        :allow-empty="false"
        aria-label="Pass"
        @update:model-value="look.layer = $event"
      />
    </div>
    <template v-if="cost && ids.length">
      <p class="by">
        <span class="dim">Hottest</span>
        <SelectButton
          v-model="by"
          :options="[
            { id: 'object', name: 'objects' },
            { id: 'material', name: 'materials' },
          ]"
          option-label="name"
          option-value="id"
          :allow-empty="false"
          aria-label="Hottest by"
        />
      </p>
      <p v-if="failure" class="pad" role="alert">{{ failure }}</p>
      <DataTable
        :value="named"
        data-key="id"
        size="small"
        class="table"
        sort-field="share"
        :sort-order="-1"
        :table-props="{ 'aria-label': 'Hottest' }"
      >
        <template #empty>Nothing measured yet.</template>
        <Column field="name" header="Name" sortable />
        <Column field="share" header="Share" sortable class="right num">
          <template #body="{ data }"
            ><i :style="{ width: `${data.share * 60}px` }"></i>{{ percent(data.share) }}</template
          >
        </Column>
        <Column field="pixels" header="Pixels" sortable class="right num" />
        <Column field="mean" header="Mean" sortable class="right num">
          <template #body="{ data }">{{ radiance(data.mean) }}</template>
        </Column>
      </DataTable>
    </template>
    <p v-if="!passes.length" class="soft pad">
      This picture has no passes of cost, time, samples or error. Renders of ours always have them.
    </p>
    <p v-else-if="!cost || !ids.length" class="soft pad">
      It has no pass of objects or materials to tell costs apart by.
    </p>
  </section>
</template>

<style scoped>
.cost {
  font-size: var(--small);
}
.passes {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  padding: 8px 12px;
}
.by {
  display: flex;
  gap: 8px;
  align-items: center;
}
.by,
.pad {
  padding: 4px 12px;
}
.table :deep(.right) {
  text-align: right;
  white-space: nowrap;
}
.table :deep(.right .p-datatable-column-header-content) {
  justify-content: flex-end;
}
.table :deep(td i) {
  display: inline-block;
  height: 6px;
  margin-right: 6px;
  background: #b5b5b5;
}
</style>
