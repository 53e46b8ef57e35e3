<script setup lang="ts">
/** A button that asks for files; what was chosen is given as the input it stands in, which is empty again afterwards. */
defineProps<{
  /** What assistive programs call it. */
  label: string;
  accept?: string;
  multiple?: boolean;
  /** Asks for a folder. */
  folder?: boolean;
}>();
const emit = defineEmits<{ pick: [input: HTMLInputElement] }>();

function choose(event: Event): void {
  const input = event.target as HTMLInputElement;
  emit('pick', input);
  input.value = '';
}
</script>

<template>
  <label class="pick">
    <span class="face"><slot></slot></span>
    <input
      type="file"
      :aria-label="label"
      :accept="accept"
      :multiple="multiple"
      :webkitdirectory="folder || undefined"
      @change="choose"
    />
  </label>
</template>

<style scoped>
.pick {
  position: relative;
  display: inline-flex;
}
.face {
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--up);
  padding: 3px 10px;
  white-space: nowrap;
}
.pick:hover .face {
  border-color: #5a5a5a;
}
input {
  position: absolute;
  inset: 0;
  opacity: 0;
  width: 100%;
  cursor: pointer;
}
.pick:focus-within .face {
  outline: 2px solid var(--act);
  outline-offset: 1px;
}
</style>
