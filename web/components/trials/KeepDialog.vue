<script setup lang="ts">
/** Keeping a trial: a new version, and whether the other sheet gets the change too. */
import Checkbox from 'primevue/checkbox';
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import { computed, ref } from 'vue';
import type { TrialSummary } from '../../../core/contracts/events.ts';
import { dialAt, dialValue } from '../../../core/document/dials.ts';
import { valueAt } from '../../../core/document/patch.ts';
import { isOfDocument, pointerOf, tellPointer } from '../../../core/document/pointers.ts';
import { useMessages } from '../../stores/messages.ts';
import { useShot } from '../../stores/shot.ts';

const props = defineProps<{ trial: TrialSummary }>();
const emit = defineEmits<{ closed: [] }>();
const shot = useShot();
const messages = useMessages();
const both = ref(true);
const busy = ref(false);

const other = computed(() => (props.trial.sheet === 'preview' ? 'final' : 'preview'));
const rows = computed(() => {
  const { document } = shot.state!;
  const { sheets } = document;
  return props.trial.patch
    .filter((step) => step.op === 'replace' || step.op === 'add')
    .map((step) => {
      const pointer = pointerOf(step.path);
      if (step.op === 'add') return { pointer, label: tellPointer(pointer), own: null, other: null, next: 'new' };
      const next = (step as { value: unknown }).value;
      if (isOfDocument(pointer)) {
        const own = valueAt(document, pointer);
        return { pointer, label: tellPointer(pointer), own, other: own, next };
      }
      return {
        pointer,
        label: dialAt(pointer).label,
        own: dialValue(sheets[props.trial.sheet], pointer),
        other: dialValue(sheets[other.value], pointer),
        next,
      };
    });
});

async function keep(): Promise<void> {
  busy.value = true;
  const done = await shot.keepTrial(props.trial, both.value);
  busy.value = false;
  if (!done) return;
  messages.done(`Trial ${props.trial.number} is kept. Undo reverts it.`);
  emit('closed');
}
</script>

<template>
  <Dialog
    visible
    modal
    :header="`Keep trial ${trial.number}`"
    :style="{ width: '460px' }"
    @update:visible="emit('closed')"
  >
    <p class="soft">{{ trial.title }}. This makes a new version of the shot.</p>
    <DataTable
      :value="rows"
      data-key="pointer"
      size="small"
      class="changes"
      :table-props="{ 'aria-label': 'What changes' }"
    >
      <Column field="label" header="" />
      <Column :header="trial.sheet" class="num">
        <template #body="{ data }"
          >{{ data.own }} → <b>{{ data.next }}</b></template
        >
      </Column>
      <Column v-if="both" :header="other" class="num">
        <template #body="{ data }"
          >{{ data.other }} → <b>{{ data.next }}</b></template
        >
      </Column>
    </DataTable>
    <label class="both">
      <Checkbox v-model="both" binary />
      Apply it to the {{ other }} sheet too
    </label>
    <p v-if="!both" class="tag">
      The {{ other }} sheet stays as it is: what was proven here is not what it will render.
    </p>
    <template #footer>
      <Button severity="secondary" variant="text" @click="emit('closed')">Cancel</Button>
      <Button autofocus :disabled="busy" @click="keep">
        {{ both ? 'Keep in both sheets' : `Keep in ${trial.sheet} only` }}
      </Button>
    </template>
  </Dialog>
</template>

<style scoped>
.changes {
  margin: 10px 0;
}
.changes :deep(.num) {
  text-align: right;
}
.changes :deep(.num .p-datatable-column-header-content) {
  justify-content: flex-end;
}
.both {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
