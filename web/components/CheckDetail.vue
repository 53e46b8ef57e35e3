<script setup lang="ts">
/** One check: what is wrong with what, why it matters, and what would put it right. */
import { ref, watch } from 'vue';
import type { PreflightCheck } from '../../core/contracts/intake.ts';
import { number } from '../format.ts';
import OffenderName from './OffenderName.vue';
import RepairOffer from './RepairOffer.vue';

const props = defineProps<{ check: PreflightCheck }>();
const emit = defineEmits<{ repair: [] }>();

/** So many at first; the rest on request, for there may be thousands. */
const STEP = 200;
const shown = ref(STEP);
watch(
  () => props.check.id,
  () => (shown.value = STEP),
);
</script>

<template>
  <article>
    <header>
      <h2>{{ check.title }}</h2>
      <span class="severity" :class="check.state">{{ check.state === 'not-run' ? 'not run' : check.state }}</span>
    </header>
    <p class="soft">{{ check.why }}</p>
    <p v-if="check.state === 'not-run'" class="dim">It could not run: {{ check.found }}.</p>
    <p v-else-if="check.state === 'clear'" class="dim">Clear: {{ check.found }}.</p>
    <ul v-if="check.offenders.length" class="offenders" :aria-label="`Offenders of ${check.title}`">
      <li v-for="(offender, i) in check.offenders.slice(0, shown)" :key="i">
        <OffenderName :name="offender.object" />
        <span class="soft">{{ offender.detail }}</span>
      </li>
    </ul>
    <button v-if="check.offenders.length > shown" class="flat" @click="shown += STEP">
      {{ number(check.offenders.length - shown) }} more
    </button>
    <RepairOffer v-if="check.repair" :repair="check.repair" @repair="emit('repair')" />
    <p class="dim id">
      <code>{{ check.id }}</code>
    </p>
  </article>
</template>

<style scoped>
article {
  display: grid;
  gap: 10px;
  padding: 10px 14px;
  align-content: start;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
}
.severity.clear,
.severity.not-run {
  color: var(--dim);
}
.offenders li {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
  gap: 10px;
  padding: 4px 0;
  border-top: 1px solid var(--line);
  overflow-wrap: anywhere;
}
.id {
  font-size: 11px;
}
</style>
