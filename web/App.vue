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
/** To what the page is about, past its header and lists. */
const skip = () => document.getElementById('main')?.focus();
</script>

<template>
  <a class="skip" href="#main" @click.prevent="skip">Skip to the main part</a>
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
.skip {
  position: absolute;
  left: 8px;
  top: -40px;
  z-index: 10;
  padding: 6px 12px;
  background: var(--up);
}
.skip:focus {
  top: 6px;
}
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
