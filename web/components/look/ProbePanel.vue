<script setup lang="ts">
/** The pixel under the pointer, or the area about it: what every layer has there, and the story of its light. */
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import Select from 'primevue/select';
import ToggleButton from 'primevue/togglebutton';
import { computed } from 'vue';
import { coloursOf } from '../../../core/formats/layers.ts';
import { luminance } from '../../../core/data/colour.ts';
import { tellBrightest } from '../../../core/picture/tell-brightest.ts';
import { tellPixel } from '../../../core/picture/tell-pixel.ts';
import { percent, radiance } from '../../format.ts';
import { ROLE_ORDER, useLook } from '../../stores/look.ts';
import { useProbe } from '../../stores/probe.ts';
import { useShot } from '../../stores/shot.ts';

const look = useLook();
const probe = useProbe();
const shot = useShot();

const byName = computed(() => new Map(probe.values?.channels.map((one) => [one.name, one])));
/** In the order of the list beside the picture. */
const layers = computed(() => {
  const own = look.opened.get(probe.values?.source.key ?? '')?.layers ?? [];
  return [...own].sort((a, b) => ROLE_ORDER.indexOf(a.role) - ROLE_ORDER.indexOf(b.role));
});
const whole = computed(() => {
  const beauty = layers.value.find(({ role }) => role === 'beauty');
  return beauty ? lightOf(coloursOf(beauty)) : 0;
});
function lightOf(colours: [string, string, string] | null): number {
  const [r, g, b] = (colours ?? []).map((name) => byName.value.get(name)?.mean ?? 0);
  return colours ? luminance(r, g, b) : 0;
}
const rows = computed(() =>
  layers.value.flatMap((layer) => {
    const found = layer.channels.flatMap((name) => byName.value.get(name) ?? []);
    if (found.length === 0) return [];
    const colours = coloursOf(layer);
    const isPart = layer.role === 'light' || layer.role === 'light group';
    const error = byName.value.get(`error.${layer.name || 'beauty'}`)?.mean;
    return [
      {
        name: layer.name,
        role: layer.role,
        values: found.map(({ mean }) =>
          Number.isInteger(mean) && Math.abs(mean) < 1e6 ? String(mean) : radiance(mean),
        ),
        share: isPart && whole.value > 0 ? lightOf(colours) / whole.value : null,
        // Of the area where it is more than a pixel, else the standard error that came along.
        deviation: found[1]?.deviation ?? found[0].deviation ?? error ?? null,
      },
    ];
  }),
);

const document = computed(() => shot.state?.document ?? null);
const nameIn = (part: 'objects' | 'lights' | 'materials', id: number): string => {
  const key = Object.keys(document.value?.[part] ?? {}).sort()[id - 1];
  return (key !== undefined && document.value?.[part][key]?.name) || key || (part === 'lights' ? 'environment or glow' : `${part} ${id}`); // prettier-ignore
};
const render = computed(() => probe.values?.source.render ?? null);
const stories = computed(() => {
  const { values } = probe;
  if (!values) return [];
  const told: string[] = values.named.map(({ set, name }) => `${name} covers it most (${set})`);
  if (!render.value || !document.value) return told;
  const channels = Object.fromEntries(values.channels.map(({ name, mean }) => [name, mean]));
  if (channels.object > 0)
    told.push(`${nameIn('objects', channels.object)}, of ${nameIn('materials', channels.material)}`);
  told.push(tellPixel(channels, document.value.sheets[render.value.sheet].limits));
  const brightest = tellBrightest(channels, { object: (id) => nameIn('objects', id), light: (id) => nameIn('lights', id) }); // prettier-ignore
  if (brightest) told.push(`Its brightest sample: ${brightest}`);
  return told;
});
const AREAS = [0, 1, 2, 5].map((radius) => ({ id: radius, name: `${2 * radius + 1} × ${2 * radius + 1}` }));
</script>

<template>
  <section class="probe" aria-label="Probe">
    <p class="head">
      <template v-if="probe.values">
        <b class="num">{{ probe.values.x }}, {{ probe.values.y }}</b>
        <span class="soft">{{ probe.values.source.label }}</span>
      </template>
      <span v-else class="dim">Point at a pixel to read it.</span>
      <span class="gap"></span>
      <Select
        v-model="probe.radius"
        :options="AREAS"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Sample area"
      />
      <ToggleButton v-model="probe.isHeld" on-label="Hold" off-label="Hold" title="Holds the pixel (H)" />
    </p>
    <p v-for="story in stories" :key="story" class="story">{{ story }}</p>
    <DataTable
      v-if="rows.length"
      :value="rows"
      data-key="name"
      size="small"
      class="table"
      row-hover
      :row-class="(row: { name: string }) => ({ on: row.name === look.shownLayer?.name })"
      :table-props="{ 'aria-label': 'Values of every layer' }"
      @row-click="({ data }) => (look.layer = data.name)"
    >
      <Column header="Layer" class="layer">
        <template #body="{ data }">{{ look.layerTitle(data.name) }}</template>
      </Column>
      <Column header="Value, RGBA" class="right num">
        <template #body="{ data }">{{ data.values.join('  ') }}</template>
      </Column>
      <Column header="Share" class="right num">
        <template #body="{ data }">{{ data.share === null ? '' : percent(data.share) }}</template>
      </Column>
      <Column class="right num">
        <template #header
          ><span title="Standard deviation over the area, or the standard error of the render">±</span></template
        >
        <template #body="{ data }">{{ data.deviation === null ? '' : radiance(data.deviation) }}</template>
      </Column>
    </DataTable>
  </section>
</template>

<style scoped>
.probe {
  font-size: var(--small);
}
.head {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 8px 12px;
}
.story {
  padding: 0 12px 6px;
  color: var(--soft);
}
.table :deep(.right) {
  text-align: right;
  white-space: nowrap;
}
.table :deep(.right .p-datatable-column-header-content) {
  justify-content: flex-end;
}
.table :deep(.right) {
  white-space: pre;
  padding-inline: 5px;
}
.table :deep(.layer) {
  max-width: 120px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.table :deep(tr.on td) {
  background: var(--up);
}
</style>
