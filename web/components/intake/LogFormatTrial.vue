<script setup lang="ts">
/** A format tried on the first lines of the log while it is written: which lines it reads, and what it takes them for. */
import { computed } from 'vue';
import type { LogFormat } from '../../../core/intake/log/format.ts';
import { LineReader } from '../../../core/intake/log/line.ts';

const props = defineProps<{ format: Record<string, unknown>; lines: string[] }>();

/** A format that is half written fits nothing yet. */
const reader = computed(() => {
  const { lines, severities, closing, time, memoryUnit } = props.format as unknown as LogFormat;
  if (!Array.isArray(lines) || !severities || typeof closing !== 'string' || !time || !memoryUnit) return null;
  try {
    return new LineReader(props.format as unknown as LogFormat);
  } catch {
    return null;
  }
});
const rows = computed(() =>
  props.lines
    .filter((line) => line.trim() !== '')
    .slice(0, 60)
    .map((line) => {
      const read = reader.value?.read(line) ?? null;
      const told =
        read &&
        (['severity', 'time', 'phase', 'frame', 'object', 'memory'] as const)
          .filter((key) => read[key] !== null)
          .map((key) => `${key} ${read[key]}`)
          .join(' · ');
      return { line, told };
    }),
);
const count = computed(() => rows.value.filter(({ told }) => told !== null).length);
</script>

<template>
  <section aria-label="The format on the first lines of the log">
    <h3>
      It reads {{ count }} of the first {{ rows.length }} lines
      <span v-if="!reader" class="dim">a pattern is not finished yet</span>
    </h3>
    <ul>
      <li v-for="(row, i) in rows" :key="i" :class="{ unread: row.told === null }">
        <code>{{ row.line }}</code>
        <span class="dim">{{ row.told ?? 'not read' }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section {
  margin-top: 12px;
}
ul {
  max-height: 190px;
  overflow: auto;
  margin-top: 4px;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 12px;
  padding: 2px 0;
}
code {
  font-size: var(--small);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.unread code {
  color: var(--stop);
}
</style>
