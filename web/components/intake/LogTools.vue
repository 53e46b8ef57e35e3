<script setup lang="ts">
/** A log read by another format, with statistics from beside it, against another log. */
import Button from 'primevue/button';
import Select from 'primevue/select';
import { computed, defineAsyncComponent, ref } from 'vue';
import { compareLogs } from '../../../core/intake/log/compare.ts';
import type { ShotLog } from '../../../core/contracts/intake.ts';
import { useLogs } from '../../stores/logs.ts';
import { useProfiles } from '../../stores/profiles.ts';
import FilePick from '../shared/FilePick.vue';

const props = defineProps<{ log: ShotLog }>();
const store = useLogs();
const profiles = useProfiles();
const ProfileDialog = defineAsyncComponent(() => import('./ProfileDialog.vue'));
const LogFormatTrial = defineAsyncComponent(() => import('./LogFormatTrial.vue'));
const isEditing = ref(false);
const againstId = ref<number | null>(null);

const formats = computed(() => [...new Set([props.log.format, ...profiles.of('log-format').map(({ name }) => name)])]);
const others = computed(() => (store.logs ?? []).filter(({ id }) => id !== props.log.id));
const against = computed(() => others.value.find(({ id }) => id === againstId.value) ?? null);
const difference = computed(() => against.value && compareLogs(against.value, props.log));

function takeStatistics({ files }: HTMLInputElement): void {
  if (files?.[0]) void store.addStatistics(props.log, files[0]);
}
</script>

<template>
  <div class="tools">
    <label v-if="log.id > 0">
      <span class="dim">read as</span>
      <Select
        :model-value="log.format"
        :options="formats"
        size="small"
        aria-label="Format of the log"
        @update:model-value="store.readAs(log, $event)"
      />
    </label>
    <Button v-if="log.id > 0" severity="secondary" variant="text" @click="isEditing = true">Formats …</Button>
    <label v-if="others.length">
      <span class="dim">against</span>
      <Select
        v-model="againstId"
        :options="others"
        option-label="name"
        option-value="id"
        size="small"
        show-clear
        placeholder="no other"
        aria-label="Compare with another log"
      />
    </label>
    <FilePick
      v-if="log.lacking.length && log.id > 0"
      label="Import the statistics of this render"
      accept=".json,.csv"
      @pick="takeStatistics"
      >Statistics …</FilePick
    >
    <ProfileDialog
      v-if="isEditing"
      v-slot="{ value }"
      kind="log-format"
      :name="log.format"
      @saved="store.readAs(log, $event)"
      @closed="isEditing = false"
    >
      <LogFormatTrial :format="value" :lines="log.sample" />
    </ProfileDialog>
  </div>
  <section v-if="difference" class="difference" aria-label="What is different">
    <p v-if="difference.sentences.length === 0" class="dim">
      It says the same as {{ against!.name }}, in the same time.
    </p>
    <p v-for="sentence in difference.sentences.slice(0, 60)" :key="sentence" class="soft">{{ sentence }}</p>
  </section>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: center;
}
label {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
.difference {
  background: var(--panel);
  padding: 8px 12px;
  max-height: 180px;
  overflow: auto;
}
</style>
