<script setup lang="ts">
/** Materials of a shot that came in with a scene: who has them, what of them was not understood, and another in their place. */
import Button from 'primevue/button';
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import { computed, ref } from 'vue';
import type { CameIn } from '../../../core/contracts/intake.ts';
import { wearersOf } from '../../../core/document/reassign.ts';
import { useShot } from '../../stores/shot.ts';
import ReassignDialog from '../shared/ReassignDialog.vue';

const { cameIn, find } = defineProps<{ cameIn: CameIn; find: string }>();
const shot = useShot();

interface Row {
  id: string;
  name: string;
  objects: number;
  maps: number;
  lost: string;
}
const rows = computed<Row[]>(() => {
  const { document } = shot.state!;
  const words = find.toLowerCase().split(/\s+/).filter(Boolean);
  return Object.entries(document.materials)
    .map(([id, material]) => {
      const name = material.name || id;
      const own = cameIn.notUnderstood.filter(({ where, what }) => `${where} ${what}`.includes(`"${name}"`));
      const maps = Object.entries(material).filter(([key, value]) => key.endsWith('Map') && value !== null).length;
      return {
        id,
        name,
        objects: wearersOf(document, [id]).length,
        maps,
        lost: own.map(({ what }) => what).join('; '),
      };
    })
    .filter(({ id, name, lost }) => words.every((word) => `${id} ${name} ${lost}`.toLowerCase().includes(word)));
});
const chosen = ref<Row[]>([]);
const reassigning = ref<string[]>([]);
const canReassign = computed(() => chosen.value.some(({ objects }) => objects > 0));
</script>

<template>
  <section>
    <header>
      <h2>
        Materials <span class="dim num">{{ rows.length || '' }}</span>
      </h2>
      <Button
        severity="secondary"
        variant="outlined"
        size="small"
        :disabled="!canReassign"
        title="Gives their objects another material, or plain grey"
        @click="reassigning = chosen.map(({ id }) => id)"
        >Reassign {{ chosen.length > 1 ? chosen.length : '' }} …</Button
      >
    </header>
    <p v-if="rows.length === 0" class="dim">{{ find ? 'Nothing of that name.' : 'The shot has no materials.' }}</p>
    <DataTable
      v-else
      v-model:selection="chosen"
      :value="rows"
      data-key="id"
      size="small"
      sort-field="objects"
      :sort-order="-1"
      scrollable
      scroll-height="260px"
      :virtual-scroller-options="rows.length > 60 ? { itemSize: 30 } : undefined"
      aria-label="Materials that came in"
    >
      <Column selection-mode="multiple" style="width: 34px" />
      <Column field="name" header="Material" sortable />
      <Column field="objects" header="Objects" sortable class="num" style="width: 84px" />
      <Column field="maps" header="Maps" sortable class="num" style="width: 70px" />
      <Column field="lost" header="Not understood" sortable>
        <template #body="{ data }"
          ><span :class="{ dim: !data.lost }">{{ data.lost || 'nothing' }}</span></template
        >
      </Column>
    </DataTable>
    <ReassignDialog v-if="reassigning.length" :materials="reassigning" @done="chosen = []" @closed="reassigning = []" />
  </section>
</template>

<style scoped>
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  margin-bottom: 6px;
}
</style>
