<script setup lang="ts">
/** What can be done with a whole shot: renamed, copied, told what it holds, archived, deleted. */
import { useConfirm } from 'primevue/useconfirm';
import { computed, ref } from 'vue';
import type { ShotSummary } from '../../../core/contracts/events.ts';
import type { ShotStorage } from '../../../core/contracts/storage.ts';
import bytes from 'pretty-bytes';
import { getJson, post, remove } from '../../remote/client.ts';
import { useMessages } from '../../stores/messages.ts';
import MoreMenu from '../shared/MoreMenu.vue';
import CopyDialog from './CopyDialog.vue';
import StorageDialog from './StorageDialog.vue';

const { shot } = defineProps<{ shot: ShotSummary }>();
const emit = defineEmits<{ changed: [] }>();
const confirm = useConfirm();
const messages = useMessages();
const isStorageOpen = ref(false);

async function archive(archived: boolean): Promise<void> {
  try {
    await post(`/shots/${shot.code}/archived`, { archived }, 'PUT');
    messages.done(archived ? `${shot.code} archived. Nothing was deleted.` : `${shot.code} restored.`);
  } catch (error) {
    messages.refused(error);
  }
}

async function askToDelete(): Promise<void> {
  try {
    const { freed } = await getJson<ShotStorage>(`/shots/${shot.code}/storage`);
    confirm.require({
      header: `Delete ${shot.code} permanently`,
      message: `This deletes all versions, renders, trials, pictures and logs of ${shot.code} ${shot.name} and frees ${bytes(freed)}. It can’t be undone. Archive the shot instead to keep them.`,
      acceptProps: { label: `Delete ${shot.code}`, severity: 'danger' },
      rejectProps: { label: 'Cancel', severity: 'secondary' },
      accept: () => void drop(),
    });
  } catch (error) {
    messages.refused(error);
  }
}

async function drop(): Promise<void> {
  try {
    await remove(`/shots/${shot.code}?confirm=${encodeURIComponent(shot.code)}`);
    messages.done(`${shot.code} deleted.`);
    emit('changed');
  } catch (error) {
    messages.refused(error);
  }
}

const asking = ref<'copy' | 'name' | null>(null);

const items = computed(() => [
  { label: 'Rename …', command: () => (asking.value = 'name') },
  { label: 'Duplicate …', command: () => (asking.value = 'copy') },
  { separator: true },
  { label: 'Storage …', command: () => (isStorageOpen.value = true) },
  { label: shot.archived ? 'Restore from archive' : 'Archive', command: () => void archive(!shot.archived) },
  { separator: true },
  { label: 'Delete …', command: () => void askToDelete() },
]);
</script>

<template>
  <MoreMenu :name="shot.code" :items="items" />
  <CopyDialog
    v-if="asking"
    :shot="shot"
    :is-copy="asking === 'copy'"
    @closed="asking = null"
    @changed="emit('changed')"
    @click.stop
  />
  <StorageDialog
    v-if="isStorageOpen"
    :code="shot.code"
    @closed="isStorageOpen = false"
    @changed="emit('changed')"
    @click.stop
  />
</template>
