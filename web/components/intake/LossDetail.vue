<script setup lang="ts">
/** One thing that the target does not do: on what, what it looks like, the trial that shows it, and the remedy. */
import Button from 'primevue/button';
import type { TargetLoss } from '../../../core/contracts/intake.ts';
import { useTryOut } from '../../try-out.ts';
import OffenderList from './OffenderList.vue';
import RepairOffer from './RepairOffer.vue';

const props = defineProps<{ loss: TargetLoss; target: string }>();
const emit = defineEmits<{ repair: [] }>();
const { see, busy } = useTryOut();
</script>

<template>
  <article>
    <header>
      <h2>{{ loss.title }}</h2>
    </header>
    <p class="soft">{{ loss.looks }}</p>
    <Button
      v-if="loss.values"
      severity="secondary"
      variant="outlined"
      :disabled="busy"
      @click="see(`As ${target} has it: ${props.loss.title.toLowerCase()}`, loss.values)"
    >
      See it in a trial
    </Button>
    <RepairOffer v-if="loss.repair" :repair="loss.repair" @repair="emit('repair')" />
    <OffenderList :offenders="loss.items" :label="`What it is about: ${loss.title}`" />
  </article>
</template>

<style scoped>
article {
  display: grid;
  gap: 10px;
  padding: 10px 14px;
  align-content: start;
  justify-items: start;
}
article > * {
  max-width: 100%;
}
</style>
