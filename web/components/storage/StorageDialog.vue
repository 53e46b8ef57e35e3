<script setup lang="ts">
/** What a shot holds on the disk, part by part, and what deleting each frees. */
import Button from 'primevue/button';
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import Dialog from 'primevue/dialog';
import Message from 'primevue/message';
import Skeleton from 'primevue/skeleton';
import { useConfirm } from 'primevue/useconfirm';
import { onMounted, ref } from 'vue';
import type { ShotStorage, StoredPart } from '../../../core/contracts/storage.ts';
import bytes from 'pretty-bytes';
import { getJson, remove } from '../../remote/client.ts';
import { useMessages } from '../../stores/messages.ts';

const { code } = defineProps<{ code: string }>();
const emit = defineEmits<{ closed: []; changed: [] }>();
const confirm = useConfirm();
const messages = useMessages();
const storage = ref<ShotStorage | null>(null);
const refusal = ref<string | null>(null);
const busy = ref<StoredPart | null>(null);

async function read(): Promise<void> {
  try {
    storage.value = await getJson<ShotStorage>(`/shots/${code}/storage`);
    refusal.value = null;
  } catch (error) {
    refusal.value = (error as Error).message;
  }
}
onMounted(read);

const ADDRESS: Record<StoredPart['kind'], string> = {
  version: '/versions',
  render: '/renders',
  pictures: '/picture-sets',
  log: '/logs',
};

function ask(part: StoredPart): void {
  confirm.require({
    header: 'Delete permanently',
    message: `${part.title}. Frees ${bytes(part.bytes)}. This can’t be undone.`,
    acceptProps: { label: 'Delete', severity: 'danger' },
    rejectProps: { label: 'Cancel', severity: 'secondary' },
    accept: () => void drop(part),
  });
}

async function drop(part: StoredPart): Promise<void> {
  busy.value = part;
  try {
    await remove(`${ADDRESS[part.kind]}/${part.id}`);
    messages.done(`${part.title.split(':')[0]} deleted.`);
    emit('changed');
    await read();
  } catch (error) {
    messages.refused(error);
  } finally {
    busy.value = null;
  }
}
</script>

<template>
  <Dialog visible modal :header="`Storage of ${code}`" :style="{ width: '860px' }" @update:visible="emit('closed')">
    <Message v-if="refusal" severity="error" :closable="false">{{ refusal }}</Message>
    <Skeleton v-else-if="storage === null" height="220px" aria-label="Adding up the shot’s files" />
    <template v-else>
      <p class="soft">
        Uses {{ bytes(storage.bytes) }}. Deleting the shot frees {{ bytes(storage.freed) }}; files shared with other
        shots stay.
      </p>
      <DataTable
        :value="storage.parts"
        :data-key="(part: StoredPart) => `${part.kind} ${part.id}`"
        size="small"
        scrollable
        scroll-height="380px"
        sort-field="bytes"
        :sort-order="-1"
      >
        <template #empty>Nothing stored.</template>
        <Column field="title" header="Part" sortable />
        <Column field="bytes" header="Freed if deleted" sortable class="freed">
          <template #body="{ data }">{{ bytes(data.bytes) }}</template>
        </Column>
        <Column header="" class="act">
          <template #body="{ data }">
            <span v-if="data.why" class="dim">Can’t be deleted: {{ data.why }}</span>
            <Button
              v-else
              label="Delete …"
              severity="secondary"
              size="small"
              :aria-label="`Delete ${data.title}`"
              :loading="busy === data"
              @click="ask(data)"
            />
          </template>
        </Column>
      </DataTable>
    </template>
  </Dialog>
</template>

<style scoped>
p {
  margin-bottom: 10px;
}
:deep(.freed) {
  text-align: right;
  white-space: nowrap;
  font-variant-numeric: tabular-nums;
}
:deep(.freed .p-datatable-column-header-content) {
  justify-content: flex-end;
}
:deep(.act) {
  width: 280px;
}
</style>
