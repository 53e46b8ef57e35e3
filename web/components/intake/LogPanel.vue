<script setup lang="ts">
/** A log in the order in which somebody should read it: how it ended, what matters, where time and memory went. */
import { computed, defineAsyncComponent, ref } from 'vue';
import type { LogKindTold } from '../../../core/contracts/intake.ts';
import { duration, number, percent } from '../../format.ts';
import { useLogs } from '../../stores/logs.ts';
import FilePick from './FilePick.vue';
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
const WORDS = { no: 'matters', unknown: 'look', yes: 'harmless' } as const;
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
  return `It breaks off at line ${number(off.line)}${told && ` ${told}`}: ${off.cause}.`;
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
      <button
        v-for="one in store.logs ?? []"
        :key="one.id"
        class="bare tab"
        :class="{ on: one.id === store.log?.id }"
        :aria-pressed="one.id === store.log?.id"
        @click="store.logId = one.id"
      >
        {{ one.name }}
      </button>
      <span class="gap"></span>
      <button
        v-if="store.log && store.log.id > 0"
        class="flat"
        :aria-label="`Remove ${store.log.name}`"
        @click="store.drop(store.log)"
      >
        Remove
      </button>
      <FilePick label="Bring in the log of a render" @pick="take($event.files)">Bring in a log</FilePick>
    </div>
    <p v-if="store.sending" class="sending" role="status">
      Reading the log … {{ percent(store.sent) }}
      <progress :value="store.sent" max="1" aria-label="Reading the log"></progress>
      <button class="flat" @click="store.sending.cancel()">Cancel</button>
    </p>
    <p v-if="store.logs === null" class="empty dim">Loading the logs …</p>
    <div v-else-if="!store.log" class="empty">
      <h2>No log yet</h2>
      <p class="soft">
        Drop the log of a render here, from whatever renderer: what it complains of is folded, counted and held against
        the files of this shot, and one that breaks off says why.
      </p>
    </div>
    <div v-else class="body">
      <p class="dim num">{{ facts }}</p>
      <LogTools :key="store.log.id" :log="store.log" />
      <p v-if="ended" class="ended"><span class="severity stop">stop</span> {{ ended }}</p>
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
      <h3>
        Complaints <span class="dim num">{{ store.log.kinds.length || '' }}</span>
      </h3>
      <p v-if="shown.length === 0" class="dim">
        {{ find ? `Nothing in it says "${find}".` : 'It complains of nothing.' }}
      </p>
      <button
        v-for="kind in shown"
        :key="kind.key"
        class="bare row"
        :class="{ on: kind.key === store.kind?.key }"
        :aria-pressed="kind.key === store.kind?.key"
        @click="store.kindKey = kind.key"
      >
        <span class="severity" :class="shape(kind)">{{ WORDS[kind.verdict.harmless] }}</span>
        <span class="dim">{{ kind.severity }}</span>
        <span class="cut" :title="kind.message">{{ kind.message }}</span>
        <span class="num right">× {{ number(kind.count) }}</span>
      </button>
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
  padding: 6px 16px;
  border-bottom: 1px solid var(--line);
}
.tab {
  color: var(--dim);
  padding: 4px 0;
}
.tab.on {
  color: var(--text);
  box-shadow: 0 2px var(--act);
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
h3 {
  margin-top: 6px;
}
button.row {
  display: grid;
  grid-template-columns: 62px 54px minmax(0, 1fr) 54px;
  gap: 10px;
  align-items: center;
  min-height: 26px;
  margin: 0 -16px;
  padding: 0 16px;
}
.row:hover {
  background: var(--panel);
}
.row.on {
  background: var(--up);
}
.severity {
  width: 60px;
}
.cut {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.right {
  text-align: right;
}
</style>
