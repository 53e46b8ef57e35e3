<script setup lang="ts">
/** Which values of a control are tried beside each other, on which region. */
import Checkbox from 'primevue/checkbox';
import InputText from 'primevue/inputtext';
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import { computed, ref } from 'vue';
import type { SheetName } from '../../../core/document/schema.ts';
import {
  FEWEST_STEPS,
  MOST_STEPS,
  readSteps,
  sweepValues,
  type SweepValue,
  type SweptControl,
} from '../../../core/predict/sweep.ts';
import { useCurrent } from '../../stores/current.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';

const props = defineProps<{
  control: SweptControl & { pointer: string; label: string; unit: string };
  value: SweepValue;
  sheet: SheetName;
  /** Values to begin with, in place of those around the present one. */
  propose?: SweepValue[];
  /** What is set for a value, where that is not the value itself. */
  setFor?: (value: SweepValue) => unknown;
}>();
const emit = defineEmits<{ closed: [] }>();
const shot = useShot();
const view = useView();
const current = useCurrent();

const tell = (value: SweepValue) => (value === null ? (props.control.none ?? 'none') : String(value));
const proposed = props.propose?.filter((value) => value !== props.value) ?? sweepValues(props.control, props.value);
const text = ref(proposed.map(tell).join(', '));
const picked = ref<SweepValue[]>(proposed);
const busy = ref(false);

const isChoice = computed(() => props.control.kind === 'choice');
const others = computed(() => (props.control.choices ?? []).filter((choice) => choice !== props.value));
const read = computed(() => {
  if (!isChoice.value) return readSteps(props.control, props.value, text.value);
  if (picked.value.length < FEWEST_STEPS)
    return { problem: `Choose at least ${FEWEST_STEPS}; a single one is a trial.` };
  if (picked.value.length > MOST_STEPS) return { problem: `Choose at most ${MOST_STEPS}.` };
  return { values: others.value.filter((choice) => picked.value.includes(choice)) as SweepValue[] };
});
const values = computed(() => ('values' in read.value ? read.value.values : null));
const region = computed(() => current.region);

async function begin(): Promise<void> {
  if (!values.value) return;
  busy.value = true;
  const { pointer, label } = props.control;
  const sweep = await shot.beginSweep({
    title: label.slice(0, 200),
    pointer: props.setFor ? null : pointer,
    sheet: props.sheet,
    region: region.value,
    steps: values.value.map((value) => ({ label: tell(value), values: { [pointer]: props.setFor?.(value) ?? value } })),
  });
  busy.value = false;
  if (!sweep) return;
  view.trialId = null;
  view.sweepId = sweep.id;
  emit('closed');
}
</script>

<template>
  <Dialog
    visible
    modal
    :header="`Sweep ${control.label.toLowerCase()}`"
    :style="{ width: '460px' }"
    @update:visible="emit('closed')"
  >
    <form id="sweep" @submit.prevent="begin">
      <fieldset v-if="isChoice">
        <legend>Beside {{ tell(value) }}, the current value</legend>
        <label v-for="choice in others" :key="choice"
          ><Checkbox v-model="picked" :value="choice" size="small" /> {{ choice }}</label
        >
      </fieldset>
      <label v-else class="values">
        <span
          >Values beside {{ tell(value) }}, the current value<template v-if="control.unit"
            >, {{ control.unit }}</template
          ></span
        >
        <InputText
          v-model="text"
          autofocus
          spellcheck="false"
          :invalid="'problem' in read"
          aria-describedby="sweep-told"
        />
      </label>
      <p id="sweep-told" :class="'problem' in read ? 'bad' : 'soft'" role="status">
        <template v-if="'problem' in read">{{ read.problem }}</template>
        <template v-else
          >{{ read.values.length + 1 }} renders of
          {{ region ? `the region, ${region.width} × ${region.height} pixels,` : 'the whole frame' }}
          by the {{ sheet }} sheet, all with the same random numbers. Nothing is kept until you choose one.</template
        >
      </p>
    </form>
    <template #footer>
      <Button severity="secondary" variant="text" @click="emit('closed')">Cancel</Button>
      <Button type="submit" form="sweep" :disabled="busy || !values">
        Render {{ values ? `${values.length} ${isChoice ? 'choices' : 'values'}` : '' }}
      </Button>
    </template>
  </Dialog>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 12px;
  max-height: 260px;
  overflow: auto;
}
legend,
.values span {
  color: var(--soft);
  padding: 0 0 6px;
}
.values {
  display: grid;
}
p {
  margin-top: 10px;
  min-height: 38px;
}
.bad {
  color: var(--stop);
}
</style>
