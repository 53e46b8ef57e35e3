<script setup lang="ts">
/** The field of one control of the scene, by its kind. */
import InputNumber from 'primevue/inputnumber';
import InputText from 'primevue/inputtext';
import MultiSelect from 'primevue/multiselect';
import Select from 'primevue/select';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, ref, watch } from 'vue';
import type { Control } from '../../../core/document/controls.ts';

const props = defineProps<{ control: Control; value: unknown }>();
const emit = defineEmits<{ set: [value: unknown] }>();

const NONE = '–';
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
    :max-fraction-digits="control.whole ? 0 : 6"
    :allow-empty="control.optional"
    :placeholder="control.optional ? 'any' : undefined"
    :use-grouping="false"
    :aria-label="control.label"
    fluid
    @update:model-value="($event !== null || control.optional) && emit('set', $event)"
  />
  <span v-else-if="control.kind === 'numbers'" class="parts">
    <InputNumber
      v-for="(part, i) in numbers"
      :key="i"
      :model-value="part"
      size="small"
      :min="control.min"
      :max="control.max"
      :max-fraction-digits="4"
      :use-grouping="false"
      :aria-label="`${control.label}, part ${i + 1}`"
      @update:model-value="setPart(i, $event)"
    />
  </span>
  <Select
    v-else-if="control.kind === 'choice'"
    :model-value="(value as string | null) ?? NONE"
    size="small"
    :options="choices"
    :filter="choices.length > 12"
    :aria-label="control.label"
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
    :aria-label="control.label"
    fluid
    @update:model-value="emit('set', $event)"
  />
  <ToggleSwitch
    v-else-if="control.kind === 'switch'"
    :model-value="value as boolean"
    :aria-label="control.label"
    @update:model-value="emit('set', $event)"
  />
  <InputText
    v-else-if="control.kind === 'name'"
    :model-value="value as string"
    size="small"
    :aria-label="control.label"
    fluid
    @update:model-value="emit('set', $event)"
  />
  <span v-else class="text">
    <textarea v-model="text" rows="3" :aria-label="`${control.label}, as JSON`" @change="setText"></textarea>
    <small v-if="problem" role="alert">{{ problem }}</small>
  </span>
</template>

<style scoped>
.parts {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 4px;
}
.parts :deep(input) {
  width: 100%;
  font-size: 12px;
  padding-inline: 4px;
  text-align: right;
}
:deep(input) {
  font-size: 12px;
}
.text {
  display: grid;
}
textarea {
  background: var(--up);
  color: var(--text);
  border: 1px solid var(--line);
  font:
    11px ui-monospace,
    monospace;
  resize: vertical;
}
small {
  color: var(--care);
}
</style>
