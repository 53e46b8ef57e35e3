<script setup lang="ts">
/** What intake found, in the same list as what the picture shows: a broken scene explains many a picture. */
import { computed, ref } from 'vue';
import type { PreflightSummary } from '../../../core/contracts/intake.ts';

const props = defineProps<{ preflight: PreflightSummary; code: string }>();
/** What stops is always in view; what only wants a look on request. */
const isOpen = ref(false);
const stops = computed(() => props.preflight.told.filter(({ state }) => state === 'stop'));
const cautions = computed(() => props.preflight.told.filter(({ state }) => state === 'caution'));
const shown = computed(() => (isOpen.value ? [...stops.value, ...cautions.value] : stops.value));
</script>

<template>
  <div v-if="preflight.told.length" class="intake">
    <ul class="rows" aria-label="Findings of intake">
      <li v-for="one in shown" :key="one.id">
        <RouterLink class="row" :to="{ name: 'intake', params: { code }, query: { check: one.id } }">
          <span class="severity" :class="one.state">{{ one.state }}</span>
          <span>{{ one.sentence }}</span>
        </RouterLink>
      </li>
    </ul>
    <button v-if="cautions.length" class="bare dim" :aria-expanded="isOpen" @click="isOpen = !isOpen">
      {{ isOpen ? '▾' : '▸' }} {{ cautions.length }} of intake {{ cautions.length === 1 ? 'wants' : 'want' }} a look
    </button>
  </div>
</template>

<style scoped>
.rows {
  margin: 0 -14px;
}
.row {
  display: grid;
  grid-template-columns: 54px 1fr;
  gap: 8px;
  padding: 3px 14px;
  align-items: baseline;
  color: var(--soft);
  font-size: 12.5px;
  line-height: 1.35;
  text-decoration: none;
}
.row:hover {
  background: #232323;
  color: var(--text);
}
button {
  font-size: 11px;
}
.intake {
  padding-bottom: 6px;
  border-bottom: 1px solid var(--line);
}
</style>
