<script setup lang="ts">
/** One kind of complaint: what it means, whether it matters and why, and what was decided for the shot. */
import InputText from 'primevue/inputtext';
import Button from 'primevue/button';
import { computed, ref, watch } from 'vue';
import type { LogKindTold } from '../../../core/contracts/intake.ts';
import { number } from '../../format.ts';
import OffenderName from './OffenderName.vue';
import { useLogs } from '../../stores/logs.ts';

const props = defineProps<{ kind: LogKindTold }>();
const store = useLogs();
const why = ref('');
watch(
  () => props.kind.key,
  () => (why.value = ''),
);
const DECIDED = 'decided for this shot: ';
const isDecided = computed(() => props.kind.verdict.why.startsWith(DECIDED));
const lines = computed(() => {
  const { count, firstLine, lastLine } = props.kind;
  return count === 1
    ? `line ${number(firstLine)}`
    : `${number(count)} times, lines ${number(firstLine)} to ${number(lastLine)}`;
});
</script>

<template>
  <article>
    <h2>{{ kind.meaning }}</h2>
    <p class="said">{{ kind.message }}</p>
    <p class="dim num">
      {{ kind.severity }}, {{ lines }}<template v-if="kind.phase">, in "{{ kind.phase }}"</template>
    </p>
    <p>
      <b>{{ { yes: 'Harmless', no: 'It matters', unknown: 'Unknown' }[kind.verdict.harmless] }}</b>:
      {{ kind.verdict.why }}.
    </p>
    <ul v-if="kind.objects.length" aria-label="Objects it names">
      <li v-for="object in kind.objects" :key="object">
        <OffenderName :name="object" />
      </li>
    </ul>
    <Button v-if="isDecided" severity="secondary" variant="outlined" @click="store.decide(kind, null, '')"
      >Undo this decision</Button
    >
    <form v-else @submit.prevent="store.decide(kind, kind.verdict.harmless !== 'yes', why)">
      <label>
        {{ kind.verdict.harmless === 'yes' ? 'It matters here because' : 'Harmless here because' }}
        <InputText v-model="why" size="small" maxlength="500" required />
      </label>
      <Button severity="secondary" variant="outlined" type="submit" :disabled="why.trim() === ''"
        >Decide for this shot</Button
      >
    </form>
  </article>
</template>

<style scoped>
article {
  display: grid;
  gap: 10px;
  padding: 12px 14px;
  align-content: start;
}
.said {
  background: var(--out);
  padding: 6px 8px;
  border-radius: 3px;
  overflow-wrap: anywhere;
}
li {
  padding: 2px 0;
  overflow-wrap: anywhere;
}
form {
  display: grid;
  gap: 8px;
  justify-items: start;
  border-top: 1px solid var(--line);
  padding-top: 10px;
}
label {
  display: grid;
  gap: 4px;
  width: 100%;
  color: var(--soft);
}
</style>
