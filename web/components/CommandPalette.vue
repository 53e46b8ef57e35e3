<script setup lang="ts">
/** Finds shots, views, controls, findings and commands by name. */
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import Listbox from 'primevue/listbox';
import { computed, nextTick, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import type { ShotSummary } from '../../core/contracts/events.ts';
import { getJson } from '../remote/client.ts';
import { matching, useCommands, type Command } from '../stores/commands.ts';

const store = useCommands();
const router = useRouter();
const text = ref('');
const at = ref(0);
/** More are not read through: typing is faster. */
const MOST = 60;

const all = computed(() => (store.isOpen ? [...store.sources].flatMap((source) => source()) : []));
const found = computed(() => matching(all.value, text.value).slice(0, MOST));
const groups = computed(() =>
  [...new Set(found.value.map(({ group }) => group))].map((name) => ({
    name,
    items: found.value.filter(({ group }) => group === name),
  })),
);
watch(text, () => (at.value = 0));
const shots = ref<ShotSummary[]>([]);
store.provide(() =>
  shots.value.map(({ code, name }) => ({
    id: `shot ${code}`,
    group: 'Shots',
    name: `${code} ${name}`,
    run: () => void router.push({ name: 'shot', params: { code } }),
  })),
);
watch(
  () => store.isOpen,
  async (isOpen) => {
    if (!isOpen) return;
    text.value = '';
    at.value = 0;
    // Without an answer everything else can still be found.
    shots.value = await getJson<ShotSummary[]>('/shots').catch(() => []);
  },
);

function go(by: number): void {
  at.value = Math.max(0, Math.min(found.value.length - 1, at.value + by));
  void nextTick(() => document.querySelector('.palette [aria-selected="true"]')?.scrollIntoView({ block: 'nearest' }));
}
function run(command: Command | undefined): void {
  if (!command) return;
  store.isOpen = false;
  command.run();
}
function onKey(event: KeyboardEvent): void {
  const steps: Record<string, () => void> = {
    ArrowDown: () => go(1),
    ArrowUp: () => go(-1),
    Enter: () => run(found.value[at.value]),
  };
  if (!Object.hasOwn(steps, event.key)) return;
  event.preventDefault();
  steps[event.key]();
}
</script>

<template>
  <Dialog
    v-model:visible="store.isOpen"
    modal
    dismissable-mask
    position="top"
    header="Find"
    class="palette"
    :style="{ width: '620px' }"
  >
    <InputText
      v-model="text"
      autofocus
      fluid
      placeholder="A shot, view, control, finding or command"
      aria-label="Find a shot, view, control, finding or command"
      @keydown="onKey"
    />
    <Listbox
      :model-value="found[at]"
      :options="groups"
      option-label="name"
      data-key="id"
      option-group-label="name"
      option-group-children="items"
      scroll-height="380px"
      aria-label="Found"
      empty-message="Nothing is called that."
      @update:model-value="run($event ?? found[at])"
    >
      <template #option="{ option }">
        <span>{{ option.name }}</span><span class="dim">{{ option.detail }}</span>
      </template>
    </Listbox>
  </Dialog>
</template>

<style scoped>
.p-listbox {
  margin-top: 8px;
}
.p-listbox :deep(.p-listbox-option) {
  display: flex;
  justify-content: space-between;
  gap: 14px;
}
</style>
