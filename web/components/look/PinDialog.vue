<script setup lang="ts">
/** What to look for at a place of the picture, in a few words. */
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import { ref } from 'vue';

const emit = defineEmits<{ pin: [text: string]; closed: [] }>();
const text = ref('');
function pin(): void {
  if (text.value.trim()) emit('pin', text.value.trim());
}
</script>

<template>
  <Dialog visible modal header="Pin a note" :style="{ width: '420px' }" @update:visible="emit('closed')">
    <form id="pin" @submit.prevent="pin">
      <InputText
        v-model="text"
        autofocus
        fluid
        maxlength="200"
        aria-label="What is there"
        placeholder="What is there?"
      />
    </form>
    <template #footer>
      <Button severity="secondary" variant="text" @click="emit('closed')">Cancel</Button>
      <Button type="submit" form="pin" :disabled="!text.trim()">Pin</Button>
    </template>
  </Dialog>
</template>
