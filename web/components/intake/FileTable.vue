<script setup lang="ts">
/** Every file of the shot, what will not travel first. */
import { computed } from 'vue';
import type { IntakeFile } from '../../../core/contracts/intake.ts';
import { fileSeverity, fileSize, fileState } from '../../file-words.ts';

const props = defineProps<{ files: IntakeFile[]; find: string }>();
const chosen = defineModel<string | null>('chosen', { required: true });

const shown = computed(() => {
  const words = props.find.toLowerCase().split(/\s+/).filter(Boolean);
  return props.files.filter(({ path, neededBy, state }) => {
    const text = [path, state, ...neededBy].join(' ').toLowerCase();
    return words.every((word) => text.includes(word));
  });
});
const looks = ({ breaks }: IntakeFile): string =>
  breaks.map(({ look, objects }) => `${objects.length} ${look}`).join(', ');
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
          <th>without it</th>
          <th class="right">size</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="file in shown" :key="file.path" :class="{ on: file.path === chosen }" @click="chosen = file.path">
          <td>
            <span class="severity" :class="fileSeverity(file.state)">{{ fileState(file.state) }}</span>
          </td>
          <td>
            <button class="bare" :aria-pressed="file.path === chosen" @click="chosen = file.path">
              {{ file.path }}
            </button>
            <span v-if="!file.used && file.state !== 'missing'" class="tag">unused</span>
          </td>
          <td class="soft num">{{ file.kind }}</td>
          <td class="soft by">
            {{ file.neededBy[0] ?? '' }}
            <span v-if="file.neededBy.length > 1" class="dim" :title="file.neededBy.join('\n')">
              and {{ file.neededBy.length - 1 }} more
            </span>
          </td>
          <td class="soft num">{{ looks(file) }}</td>
          <td class="right num">{{ fileSize(file.bytes) }}</td>
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
tr.on td {
  background: var(--up);
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
td.by {
  font-size: 12px;
}
.right {
  text-align: right;
}
.empty {
  padding: 24px 16px;
}
</style>
