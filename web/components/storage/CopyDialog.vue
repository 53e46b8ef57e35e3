<script setup lang="ts">
/** A shot called otherwise, or a copy of it made under another code. */
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import { computed, ref } from 'vue';
import type { ShotSummary } from '../../../core/contracts/events.ts';
import { post } from '../../remote/client.ts';
import { codeProblem } from '../../shot-code.ts';
import { useMessages } from '../../stores/messages.ts';

const { shot, isCopy } = defineProps<{ shot: ShotSummary; isCopy: boolean }>();
const emit = defineEmits<{ closed: []; changed: [] }>();
const messages = useMessages();
const code = ref(`${shot.code}-copy`.slice(0, 40));
const name = ref(shot.name);
const busy = ref(false);
const problem = computed(() => (isCopy ? codeProblem(code.value) : ''));

async function save(): Promise<void> {
  busy.value = true;
  try {
    if (isCopy) await post(`/shots/${shot.code}/copies`, { code: code.value, name: name.value });
    else await post(`/shots/${shot.code}/name`, { name: name.value }, 'PUT');
    messages.done(
      isCopy ? `${code.value} copied from version ${shot.version} of ${shot.code}.` : `${shot.code} renamed.`,
    );
    emit('changed');
    emit('closed');
  } catch (error) {
    messages.refused(error);
  }
  busy.value = false;
}
</script>

<template>
  <Dialog
    visible
    modal
    :header="isCopy ? `Duplicate ${shot.code}` : `Rename ${shot.code}`"
    :style="{ width: '400px' }"
    @update:visible="emit('closed')"
  >
    <form id="copy" class="dialog-form" @submit.prevent="save">
      <label v-if="isCopy"
        ><span>Code</span><InputText v-model="code" spellcheck="false" :invalid="problem !== ''" fluid
      /></label>
      <label><span>Name</span><InputText v-model="name" maxlength="200" autofocus fluid /></label>
      <p v-if="problem" class="bad" role="status">{{ problem }}</p>
      <p v-else-if="isCopy" class="soft">
        The newest version and its files. Renders, trials and history stay with {{ shot.code }}.
      </p>
    </form>
    <template #footer>
      <Button severity="secondary" variant="text" @click="emit('closed')">Cancel</Button>
      <Button type="submit" form="copy" :disabled="busy || problem !== ''">{{
        isCopy ? 'Duplicate' : 'Rename'
      }}</Button>
    </template>
  </Dialog>
</template>
