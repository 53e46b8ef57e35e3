<script setup lang="ts">
/** What a displacement map holds where it is worn, the rest level and scale that follow from it, and what each level of subdivision carries. */
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import Message from 'primevue/message';
import ProgressSpinner from 'primevue/progressspinner';
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { CARRIED } from '../../../core/diagnose/displacement/proposed.ts';
import type { Evidence } from '../../../core/contracts/finding.ts';
import type { MaterialSpec, ShotDocument } from '../../../core/document/schema.ts';
import { percent } from '../../format.ts';
import { getJson } from '../../remote/client.ts';
import type { ReliefAnswer, ReliefRequest, WornRelief } from '../../relief/read.worker.ts';
import HistogramEvidence from '../findings/evidence/HistogramEvidence.vue';

const props = defineProps<{ document: ShotDocument; version: number; id: string; material: MaterialSpec }>();
const emit = defineEmits<{ set: [key: 'displacementRest' | 'displacementScale', value: number] }>();

const worn = ref<WornRelief[] | null>(null);
const problem = ref('');
let worker: Worker | null = null;

/** What the reading hangs on: scale and rest level move the surface, and leave the map as it is. */
const asked = computed(() => {
  const { displacementMap } = props.material;
  const objects = Object.values(props.document.objects).flatMap(({ material, subdivision }) => (material === props.id ? [subdivision] : [])); // prettier-ignore
  return JSON.stringify([props.version, props.id, displacementMap, objects]);
});
watch(asked, read, { immediate: true });
onBeforeUnmount(() => worker?.terminate());

async function read(): Promise<void> {
  worker?.terminate();
  worn.value = null;
  problem.value = '';
  try {
    const manifest = await getJson<Record<string, string>>(`/versions/${props.version}/manifest`);
    worker = new Worker(new URL('../../relief/read.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<ReliefAnswer>) => {
      if ('problem' in data) problem.value = data.problem;
      else worn.value = data.worn;
    };
    const document = { ...props.document, materials: { ...props.document.materials, [props.id]: props.material } };
    const request: ReliefRequest = { document, material: props.id, sheet: 'preview', manifest };
    worker.postMessage(JSON.parse(JSON.stringify(request)));
  } catch (error) {
    problem.value = (error as Error).message;
  }
}

const first = computed(() => worn.value?.[0] ?? null);
const map = computed(() => first.value?.map ?? null);
const range = computed(() => (map.value ? map.value.high - map.value.low : 0));
const KINDS = {
  'both ways': 'goes both ways',
  raised: 'is raised',
  pressed: 'is pressed in',
  open: 'may go both ways',
};
const told = computed(() => {
  if (!map.value) return '';
  const { kind, flat, least, most, steps } = map.value;
  const level = flat ? `, flat at ${+flat.value.toPrecision(3)} (${percent(flat.share)})` : ', flat nowhere';
  return `It ${KINDS[kind]}${level}, from ${+least.toPrecision(3)} to ${+most.toPrecision(3)} in ${steps > 65_535 ? 'more than 65,535' : steps.toLocaleString('en')} steps.`;
});
const histogram = computed<Extract<Evidence, { kind: 'histogram' }> | null>(() =>
  map.value && {
    kind: 'histogram',
    title: 'Values of the map, where it is worn',
    x: { label: 'value' },
    counts: 'texels',
    bins: map.value.bins,
    marks: [{ x: props.material.displacementRest, label: `rest ${props.material.displacementRest}`, kind: 'now' }],
  },
); // prettier-ignore
const millimetres = computed({
  get: () => +(1000 * Math.abs(props.material.displacementScale) * range.value).toPrecision(3),
  set: (value: number) => range.value > 0 && emit('set', 'displacementScale', +(((Math.sign(props.material.displacementScale) || 1) * value) / 1000 / range.value).toPrecision(3)), // prettier-ignore
});
const levels = computed(() =>
  (worn.value ?? []).map(({ id, name, level, levels: all }) => ({
    id,
    name,
    level,
    now: all[level]?.carried ?? null,
    needs: all.find(({ carried }) => carried !== null && carried >= CARRIED)?.level ?? null,
  })),
);
</script>

<template>
  <section class="tool-below" aria-label="Displacement map">
    <h2>The map, read</h2>
    <p v-if="material.displacementKind !== 'height'" class="dim">
      It tells vectors, which have no rest level and no levels of their own to read.
    </p>
    <Message v-else-if="problem" severity="error" size="small">{{ problem }}</Message>
    <p v-else-if="!worn" class="dim waits" role="status">
      <ProgressSpinner stroke-width="6" aria-label="The map is read" />The map is read …
    </p>
    <p v-else-if="!map" class="dim">No object in view wears this material.</p>
    <template v-else>
      <HistogramEvidence v-if="histogram" :evidence="histogram" />
      <p>{{ told }}</p>
      <div class="line">
        <label
          >From lowest to highest
          <InputNumber
            v-model="millimetres"
            :min="0"
            :max-fraction-digits="3"
            suffix=" mm"
            size="small"
            aria-label="From lowest to highest, millimetres"
          />
        </label>
        <span class="dim num">of {{ +first!.size.toPrecision(2) }} m</span>
      </div>
      <Button
        v-if="map.rest !== material.displacementRest && map.kind !== 'open'"
        size="small"
        severity="secondary"
        @click="emit('set', 'displacementRest', map.rest)"
        >Rest level {{ map.rest }}{{ map.flat ? ', where it is flat' : '' }}</Button
      >
      <ul aria-label="What meshes carry of it">
        <li v-for="one in levels" :key="one.id" class="soft">
          {{ one.name }}: level {{ one.level }}
          <template v-if="one.now !== null"> carries {{ percent(one.now) }}</template>
          <template v-if="one.needs !== null && one.needs > one.level"> ; level {{ one.needs }} is enough</template>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
p,
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
.waits {
  display: flex;
  gap: 8px;
  align-items: center;
}
.waits :deep(.p-progressspinner) {
  width: 16px;
  height: 16px;
  margin: 0;
}
.line,
label {
  display: flex;
  gap: 8px;
  align-items: center;
}
label :deep(input) {
  width: 92px;
}
</style>
