<script setup lang="ts">
/** A scene file that was dropped or picked: its objects are added to the shot. */
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import ProgressBar from 'primevue/progressbar';
import { computed, onBeforeUnmount, ref } from 'vue';
import type { AddedScene } from '../../../core/contracts/intake.ts';
import { sendFiles, type Sending, type UploadFile } from '../../remote/client.ts';
import { isSceneName } from '../../remote/dropped-files.ts';
import { useMessages } from '../../stores/messages.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';

const { files } = defineProps<{ files: UploadFile[] }>();
const emit = defineEmits<{ closed: [] }>();
const shot = useShot();
const view = useView();
const messages = useMessages();

const scene = computed(() => files.find(({ file }) => isSceneName(file.name)));
const name = computed(() => scene.value?.file.name ?? files[0].file.name);
const sent = ref<number | null>(null);
let sending: Sending<AddedScene> | null = null;
onBeforeUnmount(() => sending?.cancel());

async function add(): Promise<void> {
  const { code, head } = shot.state!;
  sent.value = 0;
  const path = `/shots/${code}/objects?${new URLSearchParams({ base: String(head.id), name: name.value })}`;
  sending = sendFiles<AddedScene>(files, (share) => (sent.value = share), path);
  try {
    const { objects, leftOut, notUnderstood } = await sending.done;
    const told = [
      `${objects.length} ${objects.length === 1 ? 'object' : 'objects'} of ${name.value} added.`,
      notUnderstood.length ? `Not understood: ${notUnderstood.slice(0, 3).map(({ what }) => what).join('; ')}${notUnderstood.length > 3 ? ` and ${notUnderstood.length - 3} more` : ''}.` : '',
      leftOut.lights ? `${leftOut.lights} of its lights left out.` : '',
      'Undo reverts it.',
    ]; // prettier-ignore
    messages.done(told.filter(Boolean).join(' '));
    await shot.reached((state) => objects.every((id) => id in state.document.objects));
    view.panel = 'scene';
    view.choose(objects.map((id) => `/objects/${id}`));
    emit('closed');
  } catch (error) {
    messages.refused(error);
    sent.value = null;
  }
}
</script>

<template>
  <Dialog visible modal :header="`Add objects of ${name}`" :style="{ width: '440px' }" @update:visible="emit('closed')">
    <form id="scene" @submit.prevent="add">
      <p v-if="!scene" class="bad" role="alert">
        None of {{ files.length === 1 ? 'it' : 'these' }} is a scene: .gltf, .glb, .obj or .usda is expected.
      </p>
      <template v-else>
        <p>
          Its objects come in where they stand in their own scene, with meshes, materials and textures; its lights and
          cameras stay behind.
        </p>
        <p v-if="files.length > 1" class="dim">
          With {{ files.length - 1 }} {{ files.length === 2 ? 'file' : 'files' }} beside it.
        </p>
      </template>
      <ProgressBar v-if="sent !== null" :value="Math.round(100 * sent)" :aria-label="`Uploading ${name}`" />
    </form>
    <template #footer>
      <Button severity="secondary" variant="text" @click="emit('closed')">Cancel</Button>
      <Button type="submit" form="scene" autofocus :disabled="!scene || sent !== null">Add</Button>
    </template>
  </Dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
}
.bad {
  color: var(--stop);
}
</style>
