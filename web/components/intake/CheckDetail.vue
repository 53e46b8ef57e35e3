<script setup lang="ts">
/** One check: what is wrong with what, why it matters, and what would put it right. */
import type { PreflightCheck } from '../../../core/contracts/intake.ts';
import SeverityTag from '../shared/SeverityTag.vue';
import OffenderList from './OffenderList.vue';
import RepairOffer from './RepairOffer.vue';

defineProps<{ check: PreflightCheck }>();
const emit = defineEmits<{ repair: [] }>();
</script>

<template>
  <article>
    <header>
      <h2>{{ check.title }}</h2>
      <SeverityTag :severity="check.state" />
    </header>
    <p class="soft">{{ check.why }}</p>
    <p v-if="check.state === 'not-run'" class="dim">It could not run: {{ check.found }}.</p>
    <p v-else-if="check.state === 'clear'" class="dim">Clear: {{ check.found }}.</p>
    <OffenderList v-if="check.offenders.length" :offenders="check.offenders" :label="`Offenders of ${check.title}`" />
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
.severity:is(.clear, .not-run) {
  color: var(--dim);
}
.id {
  font-size: var(--small);
}
</style>
