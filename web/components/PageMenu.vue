<script setup lang="ts">
/** What concerns the page as a whole: finding, help, its address, its density, notifications. */
import { Ellipsis } from '@lucide/vue';
import Button from 'primevue/button';
import Menu from 'primevue/menu';
import { computed, ref, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import { copyText } from '../copy-text.ts';
import { useCommands } from '../stores/commands.ts';
import { usePreferences } from '../stores/preferences.ts';
import WorkDrawer from './WorkDrawer.vue';

/** Left out where a page has no keys of its own. */
const emit = defineEmits<{ keys: [] }>();
const { hasKeys = true } = defineProps<{ hasKeys?: boolean }>();
const router = useRouter();
const menu = useTemplateRef('menu');
const isWorkShown = ref(false);
const commands = useCommands();
const preferences = usePreferences();

const copyLink = () => copyText(window.location.href, 'Link copied.');
const secondWindow = () => window.open(window.location.href, '_blank', 'popup,width=1280,height=800');
const isOn = (on: boolean) => (on ? '✓ ' : '');

const items = computed(() => [
  { label: 'Running work …', command: () => (isWorkShown.value = true) },
  { label: 'Find … (Ctrl K)', command: () => (commands.isOpen = true) },
  ...(hasKeys ? [{ label: 'Keyboard (?)', command: () => emit('keys') }] : []),
  { label: 'Help', command: () => void router.push({ name: 'help', params: { name: 'guide/first-steps' } }) },
  { separator: true },
  { label: 'Copy link to this view', command: () => void copyLink() },
  { label: 'Open in a second window', command: () => void secondWindow() },
  { separator: true },
  { label: `${isOn(preferences.isRoomy)}Larger text`, command: () => (preferences.isRoomy = !preferences.isRoomy) },
  { label: `${isOn(preferences.notifies)}Notify when work ends`, command: () => void preferences.setNotifies(!preferences.notifies) },
]); // prettier-ignore

commands.provide(() => [
  ...(hasKeys ? [{ id: 'keys', group: 'Do' as const, name: 'Keyboard', detail: '?', run: () => emit('keys') }] : []),
  { id: 'work', group: 'Do', name: 'Running work', run: () => (isWorkShown.value = true) },
  { id: 'copy-link', group: 'Do', name: 'Copy link to this view', run: () => void copyLink() },
  { id: 'second-window', group: 'Do', name: 'Open in a second window', run: () => void secondWindow() },
  { id: 'density', group: 'Do', name: preferences.isRoomy ? 'Smaller text' : 'Larger text', run: () => (preferences.isRoomy = !preferences.isRoomy) },
  { id: 'help', group: 'Go to', name: 'Help', run: () => void router.push({ name: 'help', params: { name: 'guide/first-steps' } }) },
  { id: 'shots', group: 'Go to', name: 'All shots', run: () => void router.push({ name: 'shots' }) },
]); // prettier-ignore
</script>

<template>
  <Button
    severity="secondary"
    variant="text"
    aria-haspopup="true"
    aria-label="Page menu: find, keyboard, help, link, text size"
    title="Find, keyboard, help, link, text size"
    @click="menu?.toggle($event)"
  >
    <Ellipsis :size="16" aria-hidden="true" />
  </Button>
  <Menu ref="menu" :model="items" popup />
  <WorkDrawer v-model:visible="isWorkShown" />
</template>
