<script setup lang="ts">
/** What runs and waits across all shots, in order; any of it can be cancelled, any shot put first. */
import { useIntervalFn } from '@vueuse/core';
import Button from 'primevue/button';
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import Drawer from 'primevue/drawer';
import Message from 'primevue/message';
import ProgressBar from 'primevue/progressbar';
import Skeleton from 'primevue/skeleton';
import { ref, watch } from 'vue';
import type { RunningWork } from '../../core/contracts/events.ts';
import { percent } from '../format.ts';
import { getJson, post } from '../remote/client.ts';
import { useMessages } from '../stores/messages.ts';

const EVERY_MS = 1500;
const visible = defineModel<boolean>('visible', { required: true });
const messages = useMessages();
/** Null until it is read. */
const work = ref<RunningWork[] | null>(null);
const refusal = ref('');

async function read(): Promise<void> {
  try {
    work.value = await getJson<RunningWork[]>('/work');
    refusal.value = '';
  } catch (error) {
    refusal.value = (error as Error).message;
  }
}
const { pause, resume } = useIntervalFn(read, EVERY_MS, { immediate: false });
watch(
  visible,
  (isOpen) => {
    if (!isOpen) return pause();
    void read();
    resume();
  },
  { immediate: true },
);

async function attempt(asked: Promise<unknown>): Promise<void> {
  await asked.catch((error: unknown) => messages.refused(error));
  await read();
}
const STOPS: Record<RunningWork['kind'], (id: number) => string> = {
  trial: (id) => `/trials/${id}/stop`,
  render: (id) => `/renders/${id}/stop`,
  examination: (id) => `/renders/${id}/examination/stop`,
};
const cancel = ({ kind, id }: RunningWork) => attempt(post(STOPS[kind](id), {}));
const putFirst = ({ code }: RunningWork) => attempt(post(`/shots/${code}/first`, {}, 'PUT'));
</script>

<template>
  <Drawer v-model:visible="visible" position="right" header="Running, in order" :style="{ width: '560px' }">
    <Message v-if="refusal" severity="error" role="alert">{{ refusal }}</Message>
    <Skeleton v-else-if="work === null" height="160px" aria-label="Reading what runs" />
    <DataTable
      v-else
      :value="work"
      :data-key="(one: RunningWork) => `${one.kind} ${one.id}`"
      size="small"
      :table-props="{ 'aria-label': 'Running work' }"
    >
      <template #empty>Nothing is running.</template>
      <Column header="Shot" field="code">
        <template #body="{ data }"
          ><RouterLink :to="{ name: 'shot', params: { code: data.code } }" @click="visible = false">{{
            data.code
          }}</RouterLink></template
        >
      </Column>
      <Column header="Work">
        <template #body="{ data }">
          {{ data.title }}
          <ProgressBar
            :value="Math.round(100 * data.progress)"
            :show-value="false"
            :aria-label="`${data.code} ${data.title}`"
          />
        </template>
      </Column>
      <Column header="" class="num">
        <template #body="{ data }">{{ percent(data.progress) }}</template>
      </Column>
      <Column header="">
        <template #body="{ data }">
          <span class="acts">
            <Button
              severity="secondary"
              variant="text"
              :disabled="data.isFirst || data.kind === 'trial'"
              :aria-label="`${data.code} first`"
              @click="putFirst(data)"
              >First</Button
            >
            <Button
              severity="secondary"
              variant="text"
              :aria-label="`Cancel ${data.code} ${data.title}`"
              @click="cancel(data)"
              >Cancel</Button
            >
          </span>
        </template>
      </Column>
    </DataTable>
    <p class="dim note">Trials run first, then the prioritised shot, then the rest.</p>
  </Drawer>
</template>

<style scoped>
.acts {
  display: flex;
  justify-content: flex-end;
}
.note {
  margin-top: 10px;
  font-size: var(--small);
}
</style>
