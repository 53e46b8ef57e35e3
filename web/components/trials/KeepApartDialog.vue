<script setup lang="ts">
/** Keeping a trial of two renders: two shots, for no version is both. */
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import { computed, ref } from 'vue';
import type { TrialSummary } from '../../../core/contracts/events.ts';
import { codeProblem } from '../../shot-code.ts';
import { useMessages } from '../../stores/messages.ts';
import { useShot } from '../../stores/shot.ts';

const { trial } = defineProps<{ trial: TrialSummary }>();
const emit = defineEmits<{ closed: [] }>();
const shot = useShot();
const messages = useMessages();
const stem = shot.state!.code.slice(0, 34);
const rest = ref(`${stem}-rest`);
const alone = ref(`${stem}-alone`);
const busy = ref(false);

const problem = computed(
  () =>
    codeProblem(rest.value) ||
    codeProblem(alone.value) ||
    (rest.value === alone.value ? 'Two shots need two codes.' : ''),
);

async function keep(): Promise<void> {
  busy.value = true;
  const done = await shot.keepApart(trial, { rest: rest.value, alone: alone.value });
  busy.value = false;
  if (!done) return;
  messages.done(`${rest.value} and ${alone.value} are in the list of shots. Added together, their renders are the picture of trial ${trial.number}.`); // prettier-ignore
  emit('closed');
}
</script>

<template>
  <Dialog
    visible
    modal
    :header="`Keep trial ${trial.number} as two shots`"
    :style="{ width: '460px' }"
    @update:visible="emit('closed')"
  >
    <form id="apart" class="dialog-form" @submit.prevent="keep">
      <p class="soft">
        {{ trial.title }}. No one render has both settings, so each part becomes a shot of its own. In comp, add their
        renders (plus): beauty, every light pass and alpha.
      </p>
      <label
        ><span>The rest, with these objects held out</span
        ><InputText v-model="rest" spellcheck="false" :invalid="problem !== ''" autofocus fluid
      /></label>
      <label
        ><span>These objects alone</span><InputText v-model="alone" spellcheck="false" :invalid="problem !== ''" fluid
      /></label>
      <p v-if="problem" class="bad" role="status">{{ problem }}</p>
      <p v-else class="dim">{{ shot.state!.code }} stays as it is. The tried values are set in both sheets.</p>
    </form>
    <template #footer>
      <Button severity="secondary" variant="text" @click="emit('closed')">Cancel</Button>
      <Button type="submit" form="apart" :disabled="busy || problem !== ''">Make two shots</Button>
    </template>
  </Dialog>
</template>
