<script setup lang="ts">
/** A button that asks for files; what was chosen is given as the input it stands in, which is empty again afterwards. */
import Button from 'primevue/button';
import { useTemplateRef } from 'vue';

defineProps<{
  /** What assistive programs call it. */
  label: string;
  accept?: string;
  multiple?: boolean;
  /** Asks for a folder. */
  folder?: boolean;
  /** The one thing to do here. */
  primary?: boolean;
}>();
const emit = defineEmits<{ pick: [input: HTMLInputElement] }>();
const input = useTemplateRef('input');

function choose(event: Event): void {
  const chosen = event.target as HTMLInputElement;
  emit('pick', chosen);
  chosen.value = '';
}
</script>

<template>
  <Button
    :severity="primary ? undefined : 'secondary'"
    :variant="primary ? undefined : 'outlined'"
    :title="label"
    @click="input!.click()"
    ><slot></slot
  ></Button>
  <input
    ref="input"
    type="file"
    hidden
    :aria-label="label"
    :accept="accept"
    :multiple="multiple"
    :webkitdirectory="folder || undefined"
    @change="choose"
  />
</template>
