<script setup lang="ts">
/** Every file of the shot, what will not travel first. */
import { computed } from 'vue';
import type { IntakeFile } from '../../core/contracts/intake.ts';
import { number } from '../format.ts';

const props = defineProps<{ files: IntakeFile[]; find: string }>();

const shown = computed(() => {
  const words = props.find.toLowerCase().split(/\s+/).filter(Boolean);
  return props.files.filter(({ path, neededBy, state }) => {
    const text = [path, state, ...neededBy].join(' ').toLowerCase();
    return words.every((word) => text.includes(word));
  });
});
const WORDS: Record<IntakeFile['state'], string> = {
  ok: 'there',
  missing: 'missing',
  unreadable: 'no image',
  outside: 'outside',
  absolute: 'absolute',
  case: 'case differs',
};
const severity = (state: IntakeFile['state']): string =>
  state === 'missing' || state === 'unreadable' ? 'stop' : state === 'ok' ? 'clear' : 'caution';
const size = (bytes: number): string =>
  bytes >= 2 ** 20 ? `${number(bytes / 2 ** 20, 1)} MB` : bytes ? `${number(Math.ceil(bytes / 1024))} KB` : '';
</script>

<template>
  <div class="files">
    <table>
      <thead>
        <tr>
          <th>state</th>
          <th>file</th>
          <th>kind</th>
          <th>needed by</th>
          <th class="right">size</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="file in shown" :key="file.path">
          <td>
            <span class="severity" :class="severity(file.state)">{{ WORDS[file.state] }}</span>
          </td>
          <td>{{ file.path }} <span v-if="!file.used" class="tag">unused</span></td>
          <td class="soft">{{ file.kind }}</td>
          <td class="soft">
            {{ file.neededBy[0] ?? '' }}
            <span v-if="file.neededBy.length > 1" class="dim" :title="file.neededBy.join('\n')">
              and {{ file.neededBy.length - 1 }} more
            </span>
          </td>
          <td class="right num">{{ size(file.bytes) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="shown.length === 0" class="soft empty">No file is called "{{ find }}".</p>
  </div>
</template>

<style scoped>
.files {
  overflow: auto;
  min-height: 0;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  position: sticky;
  top: 0;
  background: var(--out);
  font-weight: 400;
  font-size: 11px;
  color: var(--dim);
  text-align: left;
  padding: 5px 12px;
  border-bottom: 1px solid var(--line);
}
td {
  padding: 5px 12px;
  border-bottom: 1px solid var(--panel);
  overflow-wrap: anywhere;
}
th:first-child,
td:first-child {
  padding-left: 16px;
  width: 96px;
}
.severity {
  width: 76px;
}
.severity.clear {
  color: var(--dim);
  border-color: transparent;
}
.right {
  text-align: right;
}
.empty {
  padding: 24px 16px;
}
</style>
