<script setup lang="ts">
/** All layers of the picture, by what they are: where the light is and where the noise is, before anything is clicked. */
import { computed, ref, watch } from 'vue';
import type { LayerRole } from '../../../core/formats/layers.ts';
import type { PassFigures } from '../../../core/picture/pass-figures.ts';
import { percent } from '../../format.ts';
import { getJson } from '../../remote/client.ts';
import { useLook } from '../../stores/look.ts';

const look = useLook();
const ROLES: { role: LayerRole; name: string }[] = [
  { role: 'beauty', name: 'Beauty' },
  { role: 'light', name: 'Light' },
  { role: 'light group', name: 'Light groups' },
  { role: 'data', name: 'Data' },
  { role: 'matte', name: 'Mattes' },
  { role: 'noise', name: 'Noise and cost' },
  { role: 'other', name: 'Other' },
];
const closed = ref<Record<string, boolean>>({ noise: true });

/** Of a render of ours; pictures have theirs from when they came in. */
const figures = ref<PassFigures | null>(null);
watch(
  () => look.shown?.render && `${look.shown.render.id} ${look.shown.render.state}`,
  async () => {
    figures.value = null;
    const id = look.shown?.render?.id;
    if (id === undefined) return;
    const read = await getJson<PassFigures>(`/renders/${id}/figures`).catch(() => null);
    if (look.shown?.render?.id === id) figures.value = read;
  },
  { immediate: true },
);

/** Shares of all light and of all noise, by layer. */
const shares = computed<Record<string, { light: number; noise: number | null }>>(() => {
  if (figures.value) return Object.fromEntries(Object.entries(figures.value.light).map(([name, { light, grain }]) => [name, { light, noise: grain }])); // prettier-ignore
  const facts = look.shown?.picture?.facts.layers ?? [];
  const beauty = facts.find(({ role }) => role === 'beauty');
  const noise = facts.filter(({ role }) => role === 'light').reduce((sum, one) => sum + (one.noise ?? 0), 0);
  return Object.fromEntries(
    facts
      .filter(({ role }) => role === 'light' || role === 'light group')
      .map((one) => [one.name, { light: beauty?.mean ? Math.max(0, one.mean / beauty.mean) : 0, noise: noise > 0 && one.role === 'light' ? (one.noise ?? 0) / noise : null }]), // prettier-ignore
  );
});

type Order = 'file' | 'light' | 'noise';
const order = ref<Order>('file');
const grouped = computed(() =>
  ROLES.map(({ role, name }) => {
    const own = look.layers.filter((one) => one.role === role);
    const by = order.value;
    if (by !== 'file') own.sort((a, b) => (shares.value[b.name]?.[by] ?? -1) - (shares.value[a.name]?.[by] ?? -1));
    return { role, name, layers: own };
  }).filter(({ layers }) => layers.length),
);
</script>

<template>
  <nav class="layers" aria-label="Layers">
    <div class="head">
      <span class="dim">light</span><span class="dim">noise</span>
      <select v-model="order" aria-label="Order of layers">
        <option value="file">as in the file</option>
        <option value="light">most light first</option>
        <option value="noise">most noise first</option>
      </select>
    </div>
    <section v-for="group in grouped" :key="group.role">
      <button class="bare title" :aria-expanded="!closed[group.role]" @click="closed[group.role] = !closed[group.role]">
        {{ group.name }} <span class="dim num">{{ group.layers.length }}</span>
      </button>
      <template v-if="!closed[group.role]">
        <button
          v-for="layer in group.layers"
          :key="layer.name"
          class="bare row"
          :class="{ on: layer.name === look.shownLayer?.name }"
          :aria-current="layer.name === look.shownLayer?.name"
          :title="layer.channels.join(', ')"
          @click="look.layer = layer.name"
        >
          <span class="name">{{ look.layerTitle(layer.name) }}</span>
          <span
            v-if="shares[layer.name]"
            class="bars"
            :title="`${percent(shares[layer.name].light)} of the light${shares[layer.name].noise === null ? '' : `, ${percent(shares[layer.name].noise!)} of the visible noise`}`"
          >
            <i :style="{ width: `${Math.min(1, shares[layer.name].light) * 100}%` }"></i>
            <i class="noise" :style="{ width: `${Math.min(1, shares[layer.name].noise ?? 0) * 100}%` }"></i>
          </span>
        </button>
      </template>
    </section>
    <p v-if="look.shown && !look.layers.length" class="dim pad">Its layers are being read …</p>
  </nav>
</template>

<style scoped>
.layers {
  height: 100%;
  overflow: auto;
  background: var(--panel);
  padding-bottom: 10px;
  font-size: 12px;
}
.head {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 6px 10px;
  border-bottom: 1px solid var(--line);
  position: sticky;
  top: 0;
  background: var(--panel);
  font-size: 11px;
}
.head span {
  white-space: nowrap;
}
.head span::before {
  content: '';
  display: inline-block;
  width: 10px;
  height: 4px;
  margin: 0 4px 2px 0;
  background: #c9c9c9;
}
.head span + span::before {
  background: #7d7d7d;
}
.head select {
  margin-left: auto;
  min-width: 0;
  font: inherit;
  color: var(--soft);
  background: none;
  border: 0;
}
.title {
  display: block;
  width: 100%;
  padding: 8px 10px 3px;
  font-weight: 600;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 54px;
  gap: 8px;
  width: 100%;
  padding: 3px 10px;
  align-items: center;
}
.row:hover {
  background: var(--up);
}
.row.on {
  background: var(--up);
  box-shadow: inset 2px 0 var(--act);
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.bars i {
  display: block;
  height: 4px;
  margin: 1px 0;
  background: #c9c9c9;
  min-width: 1px;
}
.bars i.noise {
  background: #7d7d7d;
}
.pad {
  padding: 10px;
}
</style>
