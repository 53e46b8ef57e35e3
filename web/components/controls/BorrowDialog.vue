<script setup lang="ts">
/** Images of another shot, one of which is taken into this one. */
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import Listbox from 'primevue/listbox';
import Select from 'primevue/select';
import { computed, onMounted, ref, watch } from 'vue';
import type { ShotImages } from '../../../core/contracts/events.ts';
import { getBytes, getJson } from '../../remote/client.ts';
import { useMessages } from '../../stores/messages.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';

const emit = defineEmits<{ closed: [] }>();
const shot = useShot();
const view = useView();
const messages = useMessages();

/** The others that have images; null while they are asked for. */
const shots = ref<ShotImages[] | null>(null);
const from = ref<ShotImages | null>(null);
const path = ref<string | null>(null);
const isFetching = ref(false);

onMounted(async () => {
  try {
    const all = await getJson<ShotImages[]>('/images');
    shots.value = all.filter(({ code }) => code !== shot.state!.code);
    from.value = shots.value[0] ?? null;
  } catch (error) {
    messages.refused(error);
    emit('closed');
  }
});
watch(from, () => {
  path.value = null;
});
const choices = computed(() => Object.keys(from.value?.images ?? {}).sort());

/** What it is to be is asked next, as of a file from disk. */
async function take(): Promise<void> {
  isFetching.value = true;
  try {
    const bytes = await getBytes(`/files/${from.value!.images[path.value!]}`);
    view.adding = new File([bytes], path.value!.split('/').pop()!);
    emit('closed');
  } catch (error) {
    messages.refused(error);
    isFetching.value = false;
  }
}
</script>

<template>
  <Dialog
    visible
    modal
    header="Take an image from another shot"
    :style="{ width: '460px' }"
    @update:visible="emit('closed')"
  >
    <form id="borrow" @submit.prevent="take">
      <p v-if="shots === null" class="dim" role="status">Reading which shots have images …</p>
      <p v-else-if="shots.length === 0" class="dim">No other shot has images.</p>
      <template v-else>
        <Select
          v-model="from"
          :options="shots"
          :option-label="(one: ShotImages) => `${one.code} ${one.name}`"
          data-key="code"
          :filter="shots.length > 12"
          fluid
          aria-label="Shot"
        />
        <Listbox v-model="path" :options="choices" scroll-height="260px" aria-label="Images of the shot" />
      </template>
    </form>
    <template #footer>
      <Button severity="secondary" variant="text" @click="emit('closed')">Cancel</Button>
      <Button type="submit" form="borrow" :disabled="path === null || isFetching">Take it</Button>
    </template>
  </Dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
}
</style>
