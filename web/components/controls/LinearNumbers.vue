<script setup lang="ts">
/** The three numbers of a colour, linear. */
import InputNumber from 'primevue/inputnumber';

defineProps<{ label: string; value: number[]; min?: number; max?: number }>();
const emit = defineEmits<{ set: [at: number, part: number | null] }>();
const NAMES = ['red', 'green', 'blue'];
</script>

<template>
  <InputNumber
    v-for="(part, i) in value"
    :key="i"
    :model-value="part"
    size="small"
    :min="min"
    :max="max"
    :max-fraction-digits="4"
    :use-grouping="false"
    :aria-label="`${label}, ${NAMES[i]}, linear`"
    @update:model-value="emit('set', i, $event)"
  />
</template>
