<script setup lang="ts">
/** Which material objects get in place of those they have: one of the shot's own, or plain grey. */
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import { PLAIN, reassigned, wearersOf } from '../../../core/document/reassign.ts';
import { useMessages } from '../../stores/messages.ts';
import { useShot } from '../../stores/shot.ts';

const { materials } = defineProps<{ /** Ids of the materials that are taken off. */ materials: string[] }>();
const emit = defineEmits<{ closed: []; done: [] }>();
const shot = useShot();

const document = computed(() => shot.state!.document);
const nameOf = (id: string) => document.value.materials[id].name || id;
const wearers = computed(() => wearersOf(document.value, materials));
const header = computed(() =>
  materials.length === 1 ? `Reassign ${nameOf(materials[0])}` : `Reassign ${materials.length} materials`,
);
/** No id has a blank. */
const NEUTRAL = ' ';
const choices = computed(() => [
  { id: NEUTRAL, name: `${PLAIN} (no maps)` },
  ...Object.keys(document.value.materials)
    .filter((id) => materials.length !== 1 || id !== materials[0])
    .map((id) => ({ id, name: nameOf(id) })),
]);
const to = ref(NEUTRAL);
const isBusy = ref(false);

async function carryOut(): Promise<void> {
  isBusy.value = true;
  try {
    const values = reassigned(document.value, materials, to.value === NEUTRAL ? null : to.value);
    if (await shot.setDials(['preview'], values)) {
      emit('done');
      emit('closed');
    }
  } catch (error) {
    useMessages().failed(`Nothing to reassign: ${(error as Error).message}.`);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <Dialog visible modal :header="header" :style="{ width: '420px' }" @update:visible="emit('closed')">
    <form id="reassign" @submit.prevent="carryOut">
      <p>
        {{ wearers.length }} {{ wearers.length === 1 ? 'object has' : 'objects have' }}
        {{ materials.length === 1 ? 'it' : 'one of them' }}, and {{ wearers.length === 1 ? 'gets' : 'get' }}
      </p>
      <Select
        v-model="to"
        :options="choices"
        option-label="name"
        option-value="id"
        :filter="choices.length > 12"
        fluid
        aria-label="Material they get"
      />
      <p class="dim">One change, which undo reverts. The materials stay in the shot.</p>
    </form>
    <template #footer>
      <Button severity="secondary" variant="text" @click="emit('closed')">Cancel</Button>
      <Button type="submit" form="reassign" autofocus :disabled="isBusy || wearers.length === 0">Reassign</Button>
    </template>
  </Dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
}
</style>
