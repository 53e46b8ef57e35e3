<script setup lang="ts">
import Toast from 'primevue/toast';
import { useToast } from 'primevue/usetoast';
import { watch } from 'vue';
import { useMessages } from './stores/messages.ts';

const toast = useToast();
const messages = useMessages();
watch(
  () => messages.latest,
  (message) =>
    message &&
    toast.add({
      severity: message.severity,
      summary: message.text,
      detail: message.details.join('\n'),
      life: message.severity === 'error' ? 12_000 : 4_000,
    }),
);
</script>

<template>
  <RouterView />
  <Toast position="bottom-center" />
</template>

<style>
.p-toast-detail {
  white-space: pre-line;
}
</style>
