<script setup lang="ts">
/** Where time and samples went: a scale over the picture, and the hottest objects and materials as a table. */
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
    { name: find(/^cost$/i, /rays/i), told: 'Rays a sample' },
    { name: find(/^time$/i, /seconds|rendertime/i), told: 'Time a sample' },
    { name: find(/^samples$/i, /samplecount/i), told: 'Samples' },
    { name: find(/^error\.beauty$/i, /^(variance|noise|stddev)/i), told: 'Standard error' },
  ].filter((one): one is { name: string; told: string } => one.name !== null),
);
const ids = computed(() => (['object', 'material'] as const).flatMap((name) => (look.layers.some((one) => one.name === name) ? [name] : []))); // prettier-ignore
const by = ref<'object' | 'material'>('object');
const hot = ref<Hot[]>([]);
const failure = ref('');
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
  if (id === 0) return 'nothing';
  const part = by.value === 'object' ? 'objects' : 'materials';
  const items = look.shown?.render ? shot.state?.document[part] : undefined;
  const key = Object.keys(items ?? {}).sort()[id - 1];
  return (key !== undefined && items?.[key].name) || key || `${by.value} ${id}`;
}
</script>

<template>
  <section class="cost" aria-label="Cost">
    <div v-if="passes.length" class="passes">
      <button
        v-for="pass in passes"
        :key="pass.name"
        class="plain"
        :class="{ on: look.shownLayer?.name === pass.name }"
        :aria-pressed="look.shownLayer?.name === pass.name"
        @click="look.layer = pass.name"
      >
        {{ pass.told }}
      </button>
    </div>
    <template v-if="cost && ids.length">
      <p class="by">
        <label class="dim"
          >Hottest
          <select v-model="by" aria-label="Hottest by">
            <option value="object">objects</option>
            <option value="material">materials</option>
          </select></label
        >
      </p>
      <p v-if="failure" class="pad" role="alert">{{ failure }}</p>
      <table>
        <thead>
          <tr>
            <th>Name</th>
            <th class="right">Share</th>
            <th class="right">Pixels</th>
            <th class="right">Mean</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in hot.slice(0, 30)" :key="one.id">
            <td>{{ nameOf(one.id) }}</td>
            <td class="right num"><i :style="{ width: `${one.share * 60}px` }"></i>{{ percent(one.share) }}</td>
            <td class="right num">{{ one.pixels }}</td>
            <td class="right num">{{ radiance(one.mean) }}</td>
          </tr>
        </tbody>
      </table>
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
  font-size: 12px;
}
.passes {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  padding: 8px 12px;
}
.by,
.pad {
  padding: 4px 12px;
}
.by select {
  font: inherit;
  color: var(--text);
  background: var(--up);
  border: 1px solid var(--line);
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  font-weight: 400;
  color: var(--dim);
  text-align: left;
}
th,
td {
  padding: 2px 6px;
}
td:first-child,
th:first-child {
  padding-left: 12px;
}
.right {
  text-align: right;
}
td i {
  display: inline-block;
  height: 6px;
  margin-right: 6px;
  background: #b5b5b5;
}
</style>
