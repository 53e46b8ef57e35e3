<script setup lang="ts">
/** All layers of the picture, by what they are: where the light is and where the noise is, before anything is clicked. */
import Accordion from 'primevue/accordion';
import AccordionContent from 'primevue/accordioncontent';
import AccordionHeader from 'primevue/accordionheader';
import AccordionPanel from 'primevue/accordionpanel';
import Listbox from 'primevue/listbox';
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import type { LayerRole } from '../../../core/formats/layers.ts';
import type { DeskLayer } from '../../picture/desk-messages.ts';
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
const open = ref<string[]>(ROLES.map(({ role }) => role).filter((role) => role !== 'noise'));

const shares = computed(() => useLayerShares().shares);

type Order = 'file' | 'light' | 'noise';
const order = ref<Order>('file');
const ORDERS = [
  { id: 'light', name: 'most light first' },
  { id: 'noise', name: 'most noise first' },
  { id: 'file', name: 'as in the file' },
];
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
      <Select
        v-model="order"
        :options="ORDERS"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Order of layers"
      />
    </div>
    <Accordion v-model:value="open" multiple>
      <AccordionPanel v-for="group in grouped" :key="group.role" :value="group.role">
        <AccordionHeader
          >{{ group.name }} <span class="dim num count">{{ group.layers.length }}</span></AccordionHeader
        >
        <AccordionContent>
          <Listbox
            :model-value="look.shownLayer?.name"
            :options="group.layers"
            :option-label="(layer: DeskLayer) => look.layerTitle(layer.name)"
            option-value="name"
            scroll-height="none"
            :aria-label="group.name"
            @update:model-value="$event !== null && (look.layer = $event)"
          >
            <template #option="{ option: layer }">
              <span class="name" :title="layer.channels.join(', ')">{{ look.layerTitle(layer.name) }}</span>
              <span v-if="shares[layer.name]" class="bars" :title="useLayerShares().tell(layer.name)">
                <i :style="{ width: `${Math.min(1, shares[layer.name].light) * 100}%` }"></i>
                <i class="noise" :style="{ width: `${Math.min(1, shares[layer.name].noise ?? 0) * 100}%` }"></i>
              </span>
            </template>
          </Listbox>
        </AccordionContent>
      </AccordionPanel>
    </Accordion>
    <p v-if="look.shown && !look.layers.length" class="dim pad">Reading its layers …</p>
  </nav>
</template>

<style scoped>
.layers {
  height: 100%;
  overflow: auto;
  background: var(--panel);
  padding-bottom: 10px;
  font-size: var(--small);
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
  font-size: var(--small);
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
.head .p-select {
  margin-left: auto;
  min-width: 0;
}
.count {
  margin: 0 auto 0 6px;
}
.layers :deep(.p-listbox-option) {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 54px;
  gap: 8px;
  align-items: center;
  padding-block: 0.15rem;
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
