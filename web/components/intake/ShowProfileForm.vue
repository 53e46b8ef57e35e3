<script setup lang="ts">
/** What a show expects, as fields, and the thresholds of every check. Empty: whatever the shot has is right. */
import Checkbox from 'primevue/checkbox';
import Textarea from 'primevue/textarea';
import InputNumber from 'primevue/inputnumber';
import InputText from 'primevue/inputtext';
import { computed, ref } from 'vue';
import { readSettings } from '../../../core/picture/settings-record.ts';
import { severityName } from '../../severity-words.ts';
import { useIntake } from '../../stores/intake.ts';

type Json = Record<string, unknown>;
const props = defineProps<{ value: Json }>();
const emit = defineEmits<{ set: [value: Json] }>();
const intake = useIntake();

const NUMBERS: [string, string][] = [
  ['frameRate', 'frame rate, fps'],
  ['firstFrame', 'first frame'],
  ['lastFrame', 'last frame'],
  ['width', 'width, pixels'],
  ['height', 'height, pixels'],
  ['pixelAspect', 'pixel aspect'],
  ['cameras', 'cameras'],
  ['metresPerUnit', 'metres per unit'],
];
const TEXTS: [string, string][] = [
  ['viewTransform', 'view transform'],
  ['renderer', 'renderer'],
];
/** Lists, one item a line. */
const LISTS: [string, string][] = [
  ['roots', 'folders files may come from'],
  ['extensions', 'extensions that may be used'],
  ['placeholderNames', 'placeholder names (regular expressions)'],
];
const set = (key: string, to: unknown) => emit('set', { ...props.value, [key]: to });
const lines = (key: string): string => ((props.value[key] as string[] | null) ?? []).join('\n');
const setLines = (key: string, text: string) => {
  const list = text.split('\n').filter((line) => line.trim() !== '');
  set(key, key === 'extensions' && list.length === 0 ? null : list);
};

const sampling = computed(() =>
  Object.entries((props.value.sampling as Record<string, number> | undefined) ?? {})
    .map(([name, samples]) => `${name}, ${samples}`)
    .join('\n'),
);
const samplingFailure = ref('');
function setSampling(text: string): void {
  try {
    samplingFailure.value = '';
    set('sampling', text.trim() ? Object.fromEntries(readSettings(text, 'samples')) : {});
  } catch (error) {
    samplingFailure.value = (error as Error).message;
  }
}

interface Threshold {
  caution: number | null;
  stop: number | null;
}
const checks = computed(() => intake.intake?.checks ?? []);
const thresholds = computed(() => (props.value.thresholds as Record<string, Threshold> | undefined) ?? {});
const off = computed(() => (props.value.off as string[] | undefined) ?? []);
function setThreshold(id: string, key: keyof Threshold, to: number | null): void {
  const own: Threshold = { ...(thresholds.value[id] ?? { caution: null, stop: null }), [key]: to };
  const rest = Object.fromEntries(Object.entries(thresholds.value).filter(([other]) => other !== id));
  set('thresholds', own.caution === null && own.stop === null ? rest : { ...rest, [id]: own });
}
const turn = (id: string) => set('off', off.value.includes(id) ? off.value.filter((one) => one !== id) : [...off.value, id]); // prettier-ignore
</script>

<template>
  <div class="form">
    <div class="fields">
      <label v-for="[key, label] in NUMBERS" :key="key">
        <span class="dim">{{ label }}</span>
        <InputNumber
          :model-value="(value[key] as number | null) ?? null"
          size="small"
          :use-grouping="false"
          :max-fraction-digits="6"
          allow-empty
          placeholder="any"
          :aria-label="label"
          fluid
          @update:model-value="set(key, $event)"
        />
      </label>
      <label v-for="[key, label] in TEXTS" :key="key">
        <span class="dim">{{ label }}</span>
        <InputText
          :model-value="(value[key] as string | null) ?? ''"
          size="small"
          placeholder="any"
          :aria-label="label"
          fluid
          @update:model-value="set(key, $event || null)"
        />
      </label>
      <label v-for="[key, label] in LISTS" :key="key" class="list">
        <span class="dim">{{ label }}</span>
        <Textarea
          :model-value="lines(key)"
          rows="2"
          spellcheck="false"
          :aria-label="label"
          @change="setLines(key, ($event.target as HTMLTextAreaElement).value)"
        />
      </label>
      <label class="list">
        <span class="dim">samples its pictures are rendered with, elsewhere</span>
        <Textarea
          :model-value="sampling"
          rows="2"
          spellcheck="false"
          placeholder="camera samples, 64"
          aria-label="samples its pictures are rendered with"
          @change="setSampling(($event.target as HTMLTextAreaElement).value)"
        />
        <span v-if="samplingFailure" class="bad" role="alert">{{ samplingFailure }}</span>
      </label>
    </div>
    <div class="checks" role="table" aria-label="Thresholds">
      <div class="row dim" role="row">
        <span role="columnheader">check</span><span role="columnheader">warning from</span
        ><span role="columnheader">blocker from</span><span role="columnheader">used</span>
      </div>
      <div v-for="check in checks" :key="check.id" class="row" role="row">
        <span role="cell" :title="check.why">{{ check.title }}</span>
        <span v-for="key in ['caution', 'stop'] as const" :key="key" role="cell">
          <InputNumber
            :model-value="thresholds[check.id]?.[key] ?? null"
            size="small"
            allow-empty
            placeholder="default"
            :aria-label="`${check.title}: ${severityName(key)} from`"
            fluid
            @update:model-value="setThreshold(check.id, key, $event)"
          />
        </span>
        <span role="cell">
          <Checkbox
            binary
            size="small"
            :model-value="!off.includes(check.id)"
            :aria-label="`${check.title} is used`"
            @update:model-value="turn(check.id)"
          />
        </span>
      </div>
    </div>
  </div>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: 280px minmax(0, 1fr);
  gap: 20px;
  grid-template-rows: minmax(0, 1fr);
  height: 440px;
  accent-color: var(--act);
}
.fields,
.checks {
  overflow: auto;
  padding-right: 6px;
}
.fields label {
  display: grid;
  grid-template-columns: 120px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  margin-bottom: 5px;
}
.fields .list {
  grid-template-columns: 1fr;
  gap: 2px;
}
textarea {
  resize: vertical;
}
.bad {
  color: var(--stop);
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 84px 84px 34px;
  gap: 8px;
  align-items: center;
  padding: 2px 0;
}
</style>
