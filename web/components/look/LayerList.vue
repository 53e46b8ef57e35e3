<script setup lang="ts">
/** All layers of the picture, by what they are: where the light is and where the noise is, before anything is clicked. */
import { computed, ref } from 'vue';
import type { LayerRole } from '../../../core/formats/layers.ts';
import { useLayerShares } from '../../stores/layer-shares.ts';
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

const shares = computed(() => useLayerShares().shares);

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
          <span v-if="shares[layer.name]" class="bars" :title="useLayerShares().tell(layer.name)">
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
