<script setup lang="ts">
/** One thing that the target does not do: on what, what it looks like, the trial that shows it, and the remedy. */
import type { TargetLoss } from '../../core/contracts/intake.ts';
import { useTryOut } from '../try-out.ts';
import OffenderName from './OffenderName.vue';
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
    <button
      v-if="loss.values"
      class="plain"
      :disabled="busy"
      @click="see(`As ${target} has it: ${props.loss.title.toLowerCase()}`, loss.values)"
    >
      See it in a trial
    </button>
    <RepairOffer v-if="loss.repair" :repair="loss.repair" @repair="emit('repair')" />
    <ul :aria-label="`What it is about: ${loss.title}`">
      <li v-for="(one, i) in loss.items.slice(0, 300)" :key="i">
        <OffenderName :name="one.object" />
        <span class="soft">{{ one.detail }}</span>
      </li>
    </ul>
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
