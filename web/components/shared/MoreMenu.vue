<script setup lang="ts">
/** The button "more" of a row or an item, and its menu. */
import { EllipsisVertical } from '@lucide/vue';
import Button from 'primevue/button';
import Menu from 'primevue/menu';
import type { MenuItem } from 'primevue/menuitem';
import { useTemplateRef } from 'vue';

const { name, items } = defineProps<{ name: string; items: MenuItem[] }>();
const menu = useTemplateRef('menu');

/** A list that still scrolls, to bring the focused button into view, would close the menu as soon as it is open. */
function toggle(event: Event): void {
  const target = event.currentTarget;
  requestAnimationFrame(() => menu.value?.toggle(event, target));
}

defineExpose({ toggle });
</script>

<template>
  <Button
    text
    severity="secondary"
    size="small"
    aria-haspopup="true"
    :aria-label="`More about ${name}`"
    @click.stop="toggle"
  >
    <EllipsisVertical :size="16" aria-hidden="true" />
  </Button>
  <Menu ref="menu" :model="items" popup />
</template>
