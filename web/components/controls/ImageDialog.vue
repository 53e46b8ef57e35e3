<script setup lang="ts">
/** An image that was dropped or picked: what it is to be. */
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import ProgressBar from 'primevue/progressbar';
import RadioButton from 'primevue/radiobutton';
import { onBeforeUnmount, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { AddedImage, ImageUse } from '../../../core/contracts/requests.ts';
import { sendText, type Sending } from '../../remote/client.ts';
import { useUploads } from '../../picture/uploads.ts';
import { useMessages } from '../../stores/messages.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';

const { file } = defineProps<{ file: File }>();
const emit = defineEmits<{ closed: [] }>();
const shot = useShot();
const view = useView();
const router = useRouter();
const messages = useMessages();

const USES = [
  { id: 'environment', name: 'Environment', told: 'a lat-long image that lights the scene' },
  { id: 'map', name: 'Map', told: 'for materials to use' },
  { id: 'look', name: 'Picture to look at', told: 'beside the renders, in Look' },
] as const;
/** Images with more range than a display are light as a rule. */
const use = ref<(typeof USES)[number]['id']>(/\.(hdr|exr|pfm)$/i.test(file.name) ? 'environment' : 'map');
const sent = ref<number | null>(null);
let sending: Sending<AddedImage> | null = null;
onBeforeUnmount(() => sending?.cancel());

async function add(): Promise<void> {
  const { code } = shot.state!;
  if (use.value === 'look') {
    await useUploads().add(code, [{ path: file.name, file }]);
    emit('closed');
    return void router.push({ name: 'look', params: { code } });
  }
  sent.value = 0;
  sending = sendText<AddedImage>(`/shots/${code}/images`, file, (share) => (sent.value = share), { use: use.value satisfies ImageUse }); // prettier-ignore
  try {
    const { item, colourSpace, why } = await sending.done;
    messages.done(`${file.name} is read as ${colourSpace === 'srgb' ? 'sRGB' : 'linear'}: ${why}.`);
    view.showDial(item);
    emit('closed');
  } catch (error) {
    messages.refused(error);
    sent.value = null;
  }
}
</script>

<template>
  <Dialog visible modal :header="`Add ${file.name}`" :style="{ width: '420px' }" @update:visible="emit('closed')">
    <form id="image" @submit.prevent="add">
      <label v-for="one in USES" :key="one.id">
        <RadioButton v-model="use" :value="one.id" name="use" size="small" />
        <span
          >{{ one.name }} <span class="dim">{{ one.told }}</span></span
        >
      </label>
      <ProgressBar v-if="sent !== null" :value="Math.round(100 * sent)" :aria-label="`Uploading ${file.name}`" />
    </form>
    <template #footer>
      <Button severity="secondary" variant="text" @click="emit('closed')">Cancel</Button>
      <Button type="submit" form="image" autofocus :disabled="sent !== null">Add</Button>
    </template>
  </Dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
