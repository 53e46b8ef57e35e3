<script setup lang="ts">
import Dialog from 'primevue/dialog';
import type { Key } from '../keys.ts';

defineProps<{ keys: Key[] }>();
const emit = defineEmits<{ closed: [] }>();
</script>

<template>
  <Dialog visible modal header="Keyboard" :style="{ width: '480px' }" @update:visible="emit('closed')">
    <dl>
      <template v-for="key in keys" :key="key.shown">
        <dt>
          <kbd>{{ key.shown }}</kbd>
        </dt>
        <dd>{{ key.does }}</dd>
      </template>
      <dt><kbd>Wheel</kbd></dt>
      <dd>Zoom at the pointer; drag moves the picture, a double click fits it</dd>
    </dl>
  </Dialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 120px 1fr;
  gap: 5px 12px;
  margin: 0;
}
dd {
  margin: 0;
  color: var(--soft);
}
</style>
