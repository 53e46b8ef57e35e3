<script setup lang="ts">
/** What a check or a target is about, name by name, each leading to its control where there is one. */
import Button from 'primevue/button';
import ContextMenu from 'primevue/contextmenu';
import type { MenuItem } from 'primevue/menuitem';
import { ref, useTemplateRef, watch } from 'vue';
import type { PreflightOffender } from '../../../core/contracts/intake.ts';
import { copyText } from '../../copy-text.ts';
import { number } from '../../format.ts';
import OffenderName from './OffenderName.vue';

const props = defineProps<{ offenders: PreflightOffender[]; label: string }>();

/** So many at first; the rest on request, for there may be thousands. */
const STEP = 200;
const shown = ref(STEP);
watch(
  () => props.label,
  () => (shown.value = STEP),
);

const menu = useTemplateRef('menu');
const items = ref<MenuItem[]>([]);
function openMenu(event: MouseEvent, { object, detail }: PreflightOffender): void {
  const all = () => props.offenders.map((one) => `${one.object}\t${one.detail}`).join('\n');
  items.value = [
    { label: 'Copy name', command: () => void copyText(object, 'Name copied.') },
    { label: 'Copy name and detail', command: () => void copyText(`${object}: ${detail}`, 'Copied.') },
    { label: `Copy all ${number(props.offenders.length)}`, command: () => void copyText(all(), 'Copied.') },
  ];
  menu.value!.show(event);
}
</script>

<template>
  <ul :aria-label="label">
    <li v-for="(offender, i) in offenders.slice(0, shown)" :key="i" @contextmenu.prevent="openMenu($event, offender)">
      <OffenderName :name="offender.object" />
      <span class="soft">{{ offender.detail }}</span>
    </li>
  </ul>
  <Button v-if="offenders.length > shown" severity="secondary" variant="text" @click="shown += STEP">
    {{ number(offenders.length - shown) }} more
  </Button>
  <ContextMenu ref="menu" :model="items" />
</template>

<style scoped>
ul {
  width: 100%;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
  gap: 10px;
  padding: 4px 0;
  border-top: 1px solid var(--line);
  overflow-wrap: anywhere;
}
</style>
