<script setup lang="ts">
/** A profile opened: what a show expects as a form, other kinds as their JSON; compared, imported, exported. */
import Textarea from 'primevue/textarea';
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import { compareProfiles } from '../../../core/intake/compare-profiles.ts';
import type { ProfileKind } from '../../../core/contracts/intake.ts';
import { saveFile } from '../../remote/save-file.ts';
import { useMessages } from '../../stores/messages.ts';
import { useProfiles } from '../../stores/profiles.ts';
import FilePick from '../shared/FilePick.vue';
import ShowProfileForm from './ShowProfileForm.vue';

const props = defineProps<{ kind: ProfileKind; name: string }>();
const emit = defineEmits<{ closed: []; saved: [name: string] }>();
const profiles = useProfiles();
const messages = useMessages();

type Json = Record<string, unknown>;
const known = computed(() => profiles.of(props.kind));
const before = computed(() => known.value.find(({ name }) => name === props.name) ?? known.value[0]);
const value = ref<Json>(JSON.parse(before.value?.text ?? '{}') as Json);
const text = ref(JSON.stringify(value.value, null, 2));
const problem = ref('');
const asText = ref(props.kind !== 'show');
// What ships stays as it is; a copy begins under another name.
if (before.value?.ships) rename(`${before.value.name}, ours`);

function rename(name: string): void {
  value.value = { ...value.value, name };
  text.value = JSON.stringify(value.value, null, 2);
}
function setText(next: string): void {
  text.value = next;
  try {
    value.value = JSON.parse(next) as Json;
    problem.value = '';
  } catch (error) {
    problem.value = `Not JSON yet: ${(error as Error).message}`;
  }
}
function setValue(next: Json): void {
  value.value = next;
  text.value = JSON.stringify(next, null, 2);
}

const other = ref<string | null>(null);
const differences = computed(() => {
  const found = known.value.find(({ name }) => name === other.value);
  return found ? compareProfiles(JSON.parse(found.text), value.value).filter(({ path }) => path !== '/name') : [];
});
const tell = (one: unknown) => (one === undefined ? 'nothing' : JSON.stringify(one));

async function bringIn({ files }: HTMLInputElement): Promise<void> {
  const file = files?.[0];
  if (file) setText(await file.text());
}
const title = computed(() => ({ show: 'What the show expects', target: 'A renderer', 'log-format': 'A format of logs' })[props.kind]); // prettier-ignore
const called = computed(() => String(value.value.name ?? ''));
const own = computed(() => known.value.find((one) => one.name === called.value && !one.ships));

async function save(): Promise<void> {
  if (!(await profiles.save(props.kind, text.value))) return;
  messages.done(`"${called.value}" is saved.`);
  emit('saved', called.value);
  emit('closed');
}
async function drop(): Promise<void> {
  if (own.value && (await profiles.drop(own.value))) emit('closed');
}
</script>

<template>
  <Dialog visible modal :header="title" :style="{ width: '760px' }" @update:visible="emit('closed')">
    <div class="bar">
      <label>
        <span class="dim">name</span>
        <InputText
          autofocus
          :model-value="called"
          size="small"
          aria-label="Name"
          @update:model-value="rename(String($event))"
        />
      </label>
      <label>
        <span class="dim">compare with</span>
        <Select
          v-model="other"
          :options="known.map((one) => one.name)"
          size="small"
          show-clear
          placeholder="none"
          aria-label="Compare with"
        />
      </label>
      <span class="gap"></span>
      <Button
        v-if="kind === 'show'"
        severity="secondary"
        variant="text"
        :aria-pressed="asText"
        @click="asText = !asText"
        >As JSON</Button
      >
      <FilePick label="Import a profile" accept=".json,application/json" @pick="bringIn">Import …</FilePick>
      <Button severity="secondary" variant="outlined" @click="saveFile(`${called || kind}.json`, text)">Export</Button>
    </div>
    <ul v-if="other" class="differences" aria-label="Differences">
      <li v-if="differences.length === 0" class="dim">No difference but the name.</li>
      <li v-for="one in differences" :key="one.path">
        <code>{{ one.path }}</code> {{ tell(one.a) }} <span class="dim">there,</span> {{ tell(one.b) }}
        <span class="dim">here</span>
      </li>
    </ul>
    <ShowProfileForm v-if="!asText" :value="value" @set="setValue" />
    <Textarea
      v-else
      :model-value="text"
      spellcheck="false"
      :rows="kind === 'log-format' ? 12 : 20"
      aria-label="Profile as JSON"
      @update:model-value="setText($event ?? '')"
    />
    <slot :value="value"></slot>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <footer>
      <Button v-if="own" severity="secondary" variant="text" @click="drop">Remove "{{ own.name }}"</Button>
      <span class="gap"></span>
      <Button severity="secondary" variant="text" @click="emit('closed')">Cancel</Button>
      <Button :disabled="problem !== ''" @click="save">Save</Button>
    </footer>
  </Dialog>
</template>

<style scoped>
.bar,
footer,
.bar label {
  display: flex;
  gap: 8px;
  align-items: center;
}
.bar {
  margin-bottom: 12px;
  gap: 14px;
}
footer {
  margin-top: 14px;
}
textarea {
  width: 100%;
  font:
    var(--small)/1.45 ui-monospace,
    monospace;
  resize: vertical;
}
.differences {
  max-height: 120px;
  overflow: auto;
  margin-bottom: 10px;
  padding: 6px 10px;
  background: var(--up);
}
.problem {
  color: var(--stop);
  margin-top: 6px;
}
</style>
