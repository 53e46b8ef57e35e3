<script setup lang="ts">
/** Images of another shot, one of which is taken into this one. */
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import Listbox from 'primevue/listbox';
import Select from 'primevue/select';
import { computed, onMounted, ref, watch } from 'vue';
import type { ShotSummary } from '../../../core/contracts/events.ts';
import { isPictureName } from '../../../core/formats/picture-names.ts';
import { getBytes, getJson } from '../../remote/client.ts';
import { useMessages } from '../../stores/messages.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';

const emit = defineEmits<{ closed: [] }>();
const shot = useShot();
const view = useView();
const messages = useMessages();

const shots = ref<ShotSummary[] | null>(null);
const from = ref<string | null>(null);
/** Hashes of its images by path; null while they are asked for. */
const images = ref<Record<string, string> | null>(null);
const path = ref<string | null>(null);
const isFetching = ref(false);

onMounted(async () => {
  try {
    const all = await getJson<ShotSummary[]>('/shots');
    shots.value = all.filter(({ code }) => code !== shot.state!.code);
    from.value = shots.value[0]?.code ?? null;
  } catch (error) {
    messages.refused(error);
    emit('closed');
  }
});
watch(from, async (code) => {
  images.value = path.value = null;
  if (code === null) return;
  try {
    const { head } = await getJson<{ head: { id: number } }>(`/shots/${encodeURIComponent(code)}`);
    const manifest = await getJson<Record<string, string>>(`/versions/${head.id}/manifest`);
    if (from.value === code) images.value = Object.fromEntries(Object.entries(manifest).filter(([name]) => isPictureName(name))); // prettier-ignore
  } catch (error) {
    messages.refused(error);
    if (from.value === code) images.value = {};
  }
});
const choices = computed(() => Object.keys(images.value ?? {}).sort());

/** What it is to be is asked next, as of a file from disk. */
async function take(): Promise<void> {
  isFetching.value = true;
  try {
    const bytes = await getBytes(`/files/${images.value![path.value!]}`);
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
      <p v-if="shots === null" class="dim" role="status">Reading the list of shots …</p>
      <p v-else-if="shots.length === 0" class="dim">There is no other shot.</p>
      <template v-else>
        <Select
          v-model="from"
          :options="shots"
          :option-label="(one: ShotSummary) => `${one.code} ${one.name}`"
          option-value="code"
          :filter="shots.length > 12"
          fluid
          aria-label="Shot"
        />
        <p v-if="images === null" class="dim" role="status">Reading its files …</p>
        <p v-else-if="choices.length === 0" class="dim">It has no images.</p>
        <Listbox v-else v-model="path" :options="choices" scroll-height="260px" aria-label="Images of the shot" />
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
