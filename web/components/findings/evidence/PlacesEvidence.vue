<script setup lang="ts">
/** Pixels to jump to. */
import Button from 'primevue/button';
import { ref } from 'vue';
import type { Evidence } from '../../../../core/contracts/finding.ts';

defineProps<{ evidence: Extract<Evidence, { kind: 'places' }> }>();
const emit = defineEmits<{ place: [x: number, y: number] }>();
/** Places that are shown at once. */
const FIRST = 6;
const isWhole = ref(false);
</script>

<template>
  <div class="places">
    <span class="dim">{{ evidence.title }}</span>
    <Button
      v-for="place in isWhole ? evidence.places : evidence.places.slice(0, FIRST)"
      :key="place.label"
      :label="place.label"
      size="small"
      text
      @click="emit('place', place.x, place.y)"
    />
    <Button
      v-if="evidence.places.length > FIRST"
      :label="isWhole ? 'Fewer' : `${evidence.places.length - FIRST} more`"
      size="small"
      text
      severity="secondary"
      @click="isWhole = !isWhole"
    />
  </div>
</template>

<style scoped>
.places {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  font-size: var(--small);
}
</style>
