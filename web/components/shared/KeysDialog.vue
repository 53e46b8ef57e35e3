<script setup lang="ts">
/** The keys of this station, by what they are about. */
import Dialog from 'primevue/dialog';
import { computed } from 'vue';
import { KEY_GROUPS, type Key } from '../../key-table.ts';

const props = defineProps<{ keys: Key[] }>();
const emit = defineEmits<{ closed: [] }>();
const groups = computed(() =>
  KEY_GROUPS.map((name) => ({ name, keys: props.keys.filter((key) => key.group === name && key.shown) })).filter(
    ({ keys }) => keys.length > 0,
  ),
);
</script>

<template>
  <Dialog visible modal header="Keyboard" :style="{ width: '760px' }" @update:visible="emit('closed')">
    <div class="groups">
      <section v-for="group in groups" :key="group.name" :aria-label="group.name">
        <h3>{{ group.name }}</h3>
        <dl>
          <template v-for="key in group.keys" :key="key.id">
            <dt>
              <kbd>{{ key.shown }}</kbd>
            </dt>
            <dd>{{ key.does }}</dd>
          </template>
        </dl>
      </section>
    </div>
    <p class="dim">
      The wheel zooms at the pointer, dragging pans, a double click fits. A right click on the picture has more.
    </p>
  </Dialog>
</template>

<style scoped>
.groups {
  columns: 2;
  column-gap: 26px;
}
section {
  break-inside: avoid;
  padding-bottom: 12px;
}
h3 {
  font-size: 1rem;
  margin-bottom: 4px;
}
dl {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 4px 10px;
  margin: 0;
}
dd {
  margin: 0;
  color: var(--soft);
}
</style>
