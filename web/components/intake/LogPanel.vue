<script setup lang="ts">
/** A log in the order in which somebody should read it: how it ended, what matters, where time and memory went. */
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import ProgressBar from 'primevue/progressbar';
import Skeleton from 'primevue/skeleton';
import Tab from 'primevue/tab';
import TabList from 'primevue/tablist';
import Tabs from 'primevue/tabs';
import Button from 'primevue/button';
import { computed, defineAsyncComponent, ref } from 'vue';
import type { LogKindTold } from '../../../core/contracts/intake.ts';
import { duration, number, percent } from '../../format.ts';
import { useLogs } from '../../stores/logs.ts';
import SeverityTag from '../shared/SeverityTag.vue';
import FilePick from '../shared/FilePick.vue';
import LogTools from './LogTools.vue';

const props = defineProps<{ find: string }>();
const store = useLogs();
// The chart library comes when a chart does.
const MemoryChart = defineAsyncComponent(() => import('./MemoryChart.vue'));
const FramesChart = defineAsyncComponent(() => import('./FramesChart.vue'));
const isOver = ref(false);

function take(files: FileList | null | undefined): void {
  const file = files?.[0];
  if (file) void store.bringIn(file);
}
const drop = (event: DragEvent) => {
  isOver.value = false;
  take(event.dataTransfer?.files);
};

const shown = computed(() => {
  const words = props.find.toLowerCase().split(/\s+/).filter(Boolean);
  return (store.log?.kinds ?? []).filter(({ message, meaning, objects }) => {
    const text = [message, meaning, ...objects].join(' ').toLowerCase();
    return words.every((word) => text.includes(word));
  });
});
const WORDS = { no: 'matters', unknown: 'check', yes: 'harmless' } as const;
const selection = computed({
  get: () => shown.value.find(({ key }) => key === store.kind?.key) ?? null,
  set: (kind) => kind && (store.kindKey = kind.key),
});
const shape = ({ verdict }: LogKindTold): string =>
  verdict.harmless === 'no' ? 'stop' : verdict.harmless === 'unknown' ? 'caution' : 'note';
const phases = computed(() => (store.log?.phases ?? []).filter(({ seconds }) => seconds > 0).slice(0, 8));
const framesWithTimes = computed(() => (store.log?.frames ?? []).filter(({ seconds }) => seconds !== null));
const ended = computed(() => {
  const off = store.log?.brokeOff;
  if (!off) return null;
  const where = [
    off.phase && `in "${off.phase}"`,
    off.frame !== null && `in frame ${off.frame}`,
    off.object && `at ${off.object}`,
  ];
  const told = where.filter(Boolean).join(', ');
  return `It ends without an end at line ${number(off.line)}${told && ` ${told}`}: ${off.cause}.`;
});
const facts = computed(() => {
  const { log } = store;
  if (!log) return '';
  const rays = Object.values(log.rays ?? {}).reduce((a, b) => a + b, 0);
  return [
    `${log.format} log`,
    `${number(log.lines)} lines`,
    log.seconds !== null && duration(log.seconds),
    log.memory && `peak ${number(log.memory.peak / 2 ** 30, 2)} GB`,
    rays > 0 && `${number(rays / 1e6)} M rays`,
    log.frames.length > 1 && `${log.frames.length} frames`,
  ]
    .filter(Boolean)
    .join(' · ');
});
</script>

<template>
  <div
    class="log"
    :class="{ over: isOver }"
    @dragover.prevent="isOver = true"
    @dragleave.self="isOver = false"
    @drop.prevent="drop"
  >
    <div class="bar">
      <Tabs
        v-if="store.logs?.length"
        :show-navigators="false"
        :value="store.log?.id ?? 0"
        @update:value="store.logId = Number($event)"
      >
        <TabList aria-label="Logs">
          <Tab v-for="one in store.logs" :key="one.id" :value="one.id" aria-controls="log-body">{{ one.name }}</Tab>
        </TabList>
      </Tabs>
      <span class="gap"></span>
      <Button
        v-if="store.log && store.log.id > 0"
        severity="secondary"
        variant="text"
        :aria-label="`Remove ${store.log.name}`"
        @click="store.drop(store.log)"
      >
        Remove
      </Button>
      <FilePick label="Import the log of a render" @pick="take($event.files)">Import log</FilePick>
    </div>
    <p v-if="store.sending" class="sending" role="status">
      Reading the log … {{ percent(store.sent) }}
      <ProgressBar :value="Math.round(100 * store.sent)" :show-value="false" aria-label="Reading the log" />
      <Button severity="secondary" variant="text" @click="store.sending.cancel()">Cancel</Button>
    </p>
    <Skeleton v-if="store.logs === null" height="160px" aria-label="Loading the logs" />
    <div v-else-if="!store.log" class="empty">
      <h2>No log yet</h2>
      <p class="soft">
        Drop the log of a render here, from whatever renderer: its messages are grouped, counted and checked against
        this shot's files, and one that breaks off says why.
      </p>
    </div>
    <div v-else id="log-body" class="body">
      <p class="dim num">{{ facts }}</p>
      <LogTools :key="store.log.id" :log="store.log" />
      <p v-if="ended" class="ended"><SeverityTag severity="stop" /> {{ ended }}</p>
      <p v-for="hint in [...store.log.hints, ...store.log.lacking]" :key="hint" class="soft">{{ hint }}</p>
      <section v-if="phases.length || store.log.memory" class="figures">
        <dl v-if="phases.length" aria-label="Time by phase">
          <template v-for="phase in phases" :key="phase.name">
            <dt class="soft">{{ phase.name }}</dt>
            <dd>
              <i :style="{ width: `${(100 * phase.seconds) / phases[0].seconds}%` }"></i>
              <span class="num">{{ duration(phase.seconds) }}</span>
            </dd>
          </template>
        </dl>
        <MemoryChart
          v-if="store.log.memory && store.log.memory.curve.length > 2"
          :memory="store.log.memory"
          :timed="store.log.seconds !== null"
        />
      </section>
      <FramesChart v-if="framesWithTimes.length > 1" :frames="framesWithTimes" />
      <h2>
        Warnings and errors <span class="dim num">{{ store.log.kinds.length || '' }}</span>
      </h2>
      <DataTable
        v-model:selection="selection"
        :value="shown"
        data-key="key"
        selection-mode="single"
        :meta-key-selection="false"
        size="small"
        removable-sort
        class="kinds"
        :table-props="{ 'aria-label': 'Messages by kind' }"
        @row-unselect="({ data }) => (store.kindKey = data.key)"
      >
        <template #empty>{{ find ? `No message contains “${find}”.` : 'No warnings and no errors.' }}</template>
        <Column header="" class="verdict">
          <template #body="{ data }"
            ><span class="severity" :class="shape(data)">{{
              WORDS[(data as LogKindTold).verdict.harmless]
            }}</span></template
          >
        </Column>
        <Column field="severity" header="Said as" sortable class="said" />
        <Column field="message" header="Message" class="cut">
          <template #body="{ data }"
            ><span :title="data.message">{{ data.message }}</span></template
          >
        </Column>
        <Column field="count" header="Count" sortable class="count num">
          <template #body="{ data }">× {{ number(data.count) }}</template>
        </Column>
      </DataTable>
    </div>
  </div>
</template>

<style scoped>
.log {
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr);
  min-height: 0;
}
.log.over {
  outline: 2px dashed var(--act);
  outline-offset: -6px;
}
.bar {
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 0 16px 0 4px;
  border-bottom: 1px solid var(--line);
}
.sending,
.empty {
  padding: 12px 16px;
}
.empty h2 {
  margin-bottom: 6px;
}
.body {
  grid-row: 3;
  overflow: auto;
  padding: 12px 16px;
  display: grid;
  gap: 8px;
  align-content: start;
}
.ended {
  line-height: 1.5;
}
.figures {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 20px;
  padding: 6px 0;
}
dl {
  display: grid;
  grid-template-columns: 70px minmax(0, 1fr);
  gap: 4px 10px;
  margin: 0;
  align-content: start;
}
dt,
dd {
  margin: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
dd {
  display: flex;
  gap: 8px;
  align-items: center;
  padding-right: 60px;
}
dd i {
  height: 8px;
  min-width: 2px;
  background: #8d8d8d;
}
h2 {
  margin-top: 6px;
}
.kinds :deep(table) {
  table-layout: fixed;
}
.kinds :deep(td.cut) {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.kinds :deep(.verdict) {
  width: 84px;
}
.kinds :deep(.said) {
  width: 88px;
}
.kinds :deep(.count) {
  width: 88px;
  text-align: right;
}
.severity {
  width: 64px;
}
.sending :deep(.p-progressbar) {
  width: 120px;
}
</style>
