<script setup lang="ts">
/** All passes: two bars say where the light is and where the noise is, most first, before anything is clicked. */
import Accordion from 'primevue/accordion';
import AccordionContent from 'primevue/accordioncontent';
import AccordionHeader from 'primevue/accordionheader';
import AccordionPanel from 'primevue/accordionpanel';
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import Listbox from 'primevue/listbox';
import Skeleton from 'primevue/skeleton';
import { computed, ref, watch } from 'vue';
import type { PassInfo } from '../../../core/render/film/pass-list.ts';
import { noiseGrade, number, passName, percent, radiance } from '../../format.ts';
import { useCurrent } from '../../stores/current.ts';
import { useView } from '../../stores/view.ts';

const view = useView();
const current = useCurrent();

/** Light passes: what the camera sees first, and whether its light comes straight from a light source or by way of other surfaces. */
const LIGHT = ['diffuse', 'specular', 'transmission', 'volume'].flatMap((kind) => [
  `${kind}.direct`,
  `${kind}.indirect`,
]);
const lightPasses = computed(() => {
  const own = current.passes.map(({ name }) => name);
  const rows = [...LIGHT, 'emission', 'background']
    .filter((pass) => own.includes(pass) && (!pass.startsWith('volume') || current.document?.fog))
    .map((pass) => ({ pass, name: passName(pass), ...share(pass) }));
  return [{ pass: 'beauty', name: 'Beauty', ...share('beauty') }, ...rows];
});
/** Null while they are worked out. */
function share(pass: string): { light: number | null; noise: number | null } {
  if (pass === 'beauty') return { light: 1, noise: 1 };
  const { figures } = current;
  if (!figures) return { light: null, noise: null };
  const { light, grain } = figures.light[pass] ?? { light: 0, grain: 0 };
  return { light, noise: grain };
}
const chosen = computed({
  get: () => lightPasses.value.find(({ pass }) => pass === view.pass) ?? null,
  set: (row) => row && (view.pass = row.pass),
});
/** The beauty stays on top, whatever the rest is sorted by. */
const sorting = ref<{ by: 'light' | 'noise'; order: 1 | -1 }>({ by: 'light', order: -1 });
const sorted = computed(() => {
  const [beauty, ...rest] = lightPasses.value;
  const { by, order } = sorting.value;
  return [beauty, ...rest.sort((p, q) => order * ((p[by] ?? 0) - (q[by] ?? 0)))];
});

/** Groups below the light passes; the first is open to begin with. */
const GROUPS: PassInfo['group'][] = ['Cut', 'Noise and cost', 'Data', 'Shadow', 'Light groups', 'Brightest sample'];
const open = ref<string[]>(['Cut']);
const groups = computed(() =>
  GROUPS.map((name) => ({
    name,
    passes: current.passes.filter((pass) => pass.group === name),
  })).filter((group) => group.passes.length > 0),
);
// A pass that is shown is in an open group, however it came to be shown.
watch(
  () => groups.value.find(({ passes }) => passes.some(({ name }) => name === view.pass))?.name,
  (name) => name && !open.value.includes(name) && (open.value = [...open.value, name]),
  { immediate: true },
);

/** What was measured of a pass, where there is one figure for it. */
function figureOf(pass: string): string {
  const f = current.figures;
  if (!f) return '';
  if (pass.startsWith('cut.')) return percent(f.cuts[pass.slice(4)]);
  switch (pass) {
    case 'clamped':
      return percent(f.clamped);
    case 'crossings':
      return `most ${f.crossings.most}`;
    case 'error.beauty':
      return radiance(f.error);
    case 'cost':
      return `${number(f.cost, 1)} rays`;
    case 'samples':
      return current.render ? number(current.render.samplesDone) : '';
    case 'occlusion':
      return f.occlusion === null ? '' : `${percent(f.occlusion)} open`;
    default:
      return '';
  }
}
const title = ({ name, light, noise }: (typeof lightPasses.value)[number]) =>
  light === null
    ? `${name}: its shares are being worked out`
    : `${name}: ${percent(light)} of the light, ${percent(noise!)} of the noise`;
</script>

<template>
  <nav class="rail" aria-label="Passes">
    <DataTable
      v-model:selection="chosen"
      :value="sorted"
      data-key="pass"
      selection-mode="single"
      :meta-key-selection="false"
      size="small"
      lazy
      :sort-field="sorting.by"
      :sort-order="sorting.order"
      class="light"
      :table-props="{ 'aria-label': 'Light passes' }"
      @sort="
        sorting = {
          by: $event.sortField as 'light',
          order: sorting.by === $event.sortField && sorting.order === -1 ? 1 : -1,
        }
      "
    >
      <Column header="Light">
        <template #body="{ data }"
          ><span :title="title(data)">{{ data.name }}</span></template
        >
      </Column>
      <Column v-for="one in ['light', 'noise'] as const" :key="one" :header="one" :field="one" sortable class="share">
        <template #body="{ data }">
          <Skeleton v-if="data[one] === null" height="7px" :aria-label="`${one}: being worked out`" />
          <span v-else class="bar" :class="one" role="img" :aria-label="percent(data[one])" :title="title(data)"
            ><i :style="{ width: `${data[one] * 100}%` }"></i
          ></span>
        </template>
      </Column>
    </DataTable>
    <Accordion v-model:value="open" multiple>
      <AccordionPanel v-for="group in groups" :key="group.name" :value="group.name">
        <AccordionHeader>{{ group.name }}</AccordionHeader>
        <AccordionContent>
          <Listbox
            :model-value="view.pass"
            :options="group.passes"
            :option-label="(pass: PassInfo) => passName(pass.name)"
            option-value="name"
            scroll-height="none"
            :aria-label="group.name"
            @update:model-value="$event && (view.pass = $event)"
          >
            <template #option="{ option }">
              <span class="name">{{ passName(option.name) }}</span><span class="num dim">{{
                figureOf(option.name)
              }}</span>
            </template>
          </Listbox>
        </AccordionContent>
      </AccordionPanel>
    </Accordion>
    <p v-if="current.figures" class="whole dim">
      <span v-tooltip="'Of the whole frame, of 255 with shadows boosted: under 1 unseen, 2 hard to see, 5 plain'"
        >Noise <b class="num">{{ number(current.figures.grain, 1) }}</b> of 255, shadows boosted:
        {{ noiseGrade(current.figures.grain) }}</span
      >;
      <span v-tooltip="'Standard error against the light of a pixel, as exposure: half of the pixels have less'"
        >median pixel <b class="num">±{{ number(current.figures.noiseStops, 2) }}</b> stops</span
      >
    </p>
    <p v-else-if="current.render" class="whole dim" role="status">Figures of the passes are coming …</p>
  </nav>
</template>

<style scoped>
.rail {
  height: 100%;
  background: var(--panel);
  overflow: auto;
  font-size: var(--small);
}
.light :deep(table) {
  table-layout: fixed;
}
.light :deep(th),
.light :deep(td) {
  padding: 0.16rem 0.2rem;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  border: 0;
}
.light :deep(:is(th, td):first-child) {
  padding-left: 0.9rem;
}
.light :deep(th) {
  padding-block: 0.4rem;
}
.light :deep(.share) {
  width: 42px;
}
.light :deep(.share .p-datatable-column-header-content) {
  gap: 2px;
}
.light :deep(.p-datatable-sort-icon) {
  width: 0.55rem;
}
.light :deep(th[aria-sort='none'] .p-datatable-sort-icon) {
  display: none;
}
.rail :deep(.p-listbox-option) {
  display: flex;
  justify-content: space-between;
  gap: 6px;
  padding-block: 0.1rem;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.bar {
  display: block;
  height: 7px;
  background: #2e2e2e;
  position: relative;
}
.bar i {
  position: absolute;
  inset: 0 auto 0 0;
  background: #9c9c9c;
}
.bar.noise i {
  background: repeating-linear-gradient(90deg, #d8d8d8 0 1px, #555 1px 3px);
}
.whole {
  margin: 0;
  padding: 5px 12px;
}
.whole b {
  color: var(--text);
}
</style>
