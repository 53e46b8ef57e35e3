<script setup lang="ts">
/** The field of one control, of a sheet or of the scene, by its kind. */
import Textarea from 'primevue/textarea';
import InputNumber from 'primevue/inputnumber';
import InputText from 'primevue/inputtext';
import MultiSelect from 'primevue/multiselect';
import Select from 'primevue/select';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, ref, watch } from 'vue';
import type { Control } from '../../../core/document/controls.ts';
import { beginScrub } from '../../scrub.ts';
import ColourField from './ColourField.vue';

const props = defineProps<{
  control: Pick<Control, 'kind' | 'label' | 'optional' | 'min' | 'max' | 'whole'> & {
    choices?: readonly string[];
    /** Digits after the point; of whole numbers none, of others six at most. */
    digits?: number;
    step?: number;
    /** Names of the parts, which drag them. */
    axes?: readonly string[];
    /** How the absence of a number is called. */
    none?: string;
  };
  value: unknown;
  /** What it is called where the control's label is not enough. */
  called?: string;
  /** Half as wide as usual. */
  isNarrow?: boolean;
}>();
const emit = defineEmits<{ set: [value: unknown] }>();

const NONE = '–';
const name = computed(() => props.called ?? props.control.label);
const choices = computed(() => [...(props.control.optional ? [NONE] : []), ...(props.control.choices ?? [])]);
const single = computed(() => (typeof props.value === 'number' ? props.value : null));
const numbers = computed(() => (props.control.kind === 'numbers' ? (props.value as number[]) : []));

function setPart(at: number, part: number | null): void {
  if (part !== null)
    emit(
      'set',
      numbers.value.map((old, i) => (i === at ? part : old)),
    );
}

/** Dragged sideways, the name of an axis moves its number. */
function scrubPart(event: PointerEvent, at: number): void {
  const { kind, min, max, step } = props.control;
  beginScrub(event, { kind, min, max, step }, numbers.value[at], (value) => setPart(at, Number(value.toFixed(6))));
}

const text = ref('');
const problem = ref('');
watch(
  () => props.value,
  (value) => (text.value = JSON.stringify(value)),
  { immediate: true },
);
function setText(): void {
  try {
    emit('set', JSON.parse(text.value));
    problem.value = '';
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <InputNumber
    v-if="control.kind === 'number'"
    :model-value="single"
    size="small"
    :min="control.min"
    :max="control.max"
    :step="control.step"
    :max-fraction-digits="control.digits ?? (control.whole ? 0 : 6)"
    :allow-empty="control.optional"
    :placeholder="control.optional ? (control.none ?? 'any') : undefined"
    :use-grouping="false"
    :aria-label="name"
    fluid
    @update:model-value="($event !== null || control.optional) && emit('set', $event)"
  />
  <span v-else-if="control.kind === 'numbers'" class="parts">
    <span v-for="(part, i) in numbers" :key="i" class="part">
      <span v-if="control.axes" class="scrub axis" aria-hidden="true" @pointerdown="scrubPart($event, i)">{{
        control.axes[i]
      }}</span>
      <InputNumber
        :model-value="part"
        size="small"
        :min="control.min"
        :max="control.max"
        :step="control.step"
        :max-fraction-digits="control.axes ? 3 : 4"
        :use-grouping="false"
        :aria-label="`${name}, ${control.axes?.[i] ?? `part ${i + 1}`}`"
        @update:model-value="setPart(i, $event)"
      />
    </span>
  </span>
  <ColourField
    v-else-if="control.kind === 'colour'"
    :label="name"
    :value="value as number[]"
    :min="control.min"
    :max="control.max"
    :is-narrow="isNarrow"
    @set="emit('set', $event)"
  />
  <Select
    v-else-if="control.kind === 'choice'"
    :model-value="(value as string | null) ?? NONE"
    size="small"
    :options="choices"
    :filter="choices.length > 12"
    :aria-label="name"
    fluid
    @update:model-value="emit('set', $event === NONE ? null : $event)"
  />
  <MultiSelect
    v-else-if="control.kind === 'list'"
    :model-value="value as string[]"
    size="small"
    :options="choices"
    filter
    placeholder="none"
    :max-selected-labels="2"
    :aria-label="name"
    fluid
    @update:model-value="emit('set', $event)"
  />
  <ToggleSwitch
    v-else-if="control.kind === 'switch'"
    :model-value="value as boolean"
    :aria-label="name"
    @update:model-value="emit('set', $event)"
  />
  <InputText
    v-else-if="control.kind === 'name'"
    :model-value="value as string"
    size="small"
    :aria-label="name"
    fluid
    @update:model-value="emit('set', $event)"
  />
  <span v-else class="text">
    <Textarea v-model="text" rows="3" :aria-label="`${name}, as JSON`" @change="setText" />
    <small v-if="problem" role="alert">{{ problem }}</small>
  </span>
</template>

<style scoped>
.parts {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 4px;
}
.part {
  display: flex;
  align-items: center;
  gap: 2px;
  min-width: 0;
}
.axis {
  color: var(--soft);
  font-size: var(--small);
}
.parts :deep(input) {
  width: 100%;
  font-size: var(--small);
  padding-inline: 4px;
  text-align: right;
}
:deep(input) {
  font-size: var(--small);
}
.text {
  display: grid;
}
.text :deep(textarea) {
  font:
    var(--small) ui-monospace,
    monospace;
  resize: vertical;
}
small {
  color: var(--care);
}
</style>
