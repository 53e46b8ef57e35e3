<script setup lang="ts">
/** Visible noise of every light pass that two pictures have, worked out when it is asked for. */
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
    <span v-if="isEmpty" class="dim">They have no light pass of the same name that has noise.</span>
    <button v-else-if="progress === null && !rows.length" class="plain" @click="measure">Noise of every pass</button>
    <span v-else-if="progress !== null" role="status" class="num dim">{{ percent(progress) }} of the passes</span>
  </p>
  <table v-if="rows.length">
    <caption class="dim">
      Visible noise by pass, display steps after the lift, each as if it were seen alone
    </caption>
    <tbody>
      <tr v-for="row in rows" :key="row.name" @click="look.layer = row.name">
        <th>{{ look.layerTitle(row.name) }}</th>
        <td class="num">{{ row.a.toFixed(1) }}</td>
        <td class="num">{{ row.b.toFixed(1) }}</td>
        <td class="num dim">{{ row.a > 0 ? times(row.b / row.a) : '' }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.ask {
  padding: 4px 12px;
}
table {
  width: 100%;
  border-collapse: collapse;
}
caption {
  caption-side: bottom;
  text-align: left;
  font-size: 11px;
  padding: 2px 12px;
}
th {
  font-weight: 400;
  text-align: left;
  padding: 1px 12px;
}
td {
  text-align: right;
  padding: 1px 8px;
}
tr {
  cursor: pointer;
}
</style>
