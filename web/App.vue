<script setup lang="ts">
import ConfirmDialog from 'primevue/confirmdialog';
import Message from 'primevue/message';
import Toast from 'primevue/toast';
import { useToast } from 'primevue/usetoast';
import { watch } from 'vue';
import CommandPalette from './components/CommandPalette.vue';
import { useMessages } from './stores/messages.ts';
import { usePreferences } from './stores/preferences.ts';
import { useNotices } from './remote/notices.ts';

usePreferences();
const toast = useToast();
const messages = useMessages();
const notices = useNotices();
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
  <div class="notices" role="status">
    <Message v-for="notice in notices.list" :key="notice.kind" severity="warn" :closable="false">{{
      notice.text
    }}</Message>
  </div>
  <div class="place"><RouterView /></div>
  <ConfirmDialog />
  <CommandPalette />
  <Toast position="bottom-center" />
</template>

<style>
#app {
  display: flex;
  flex-direction: column;
}
.place {
  flex: 1;
  min-height: 0;
}
.p-toast-detail {
  white-space: pre-line;
}
</style>
