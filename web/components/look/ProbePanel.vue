<script setup lang="ts">
/** The pixel under the pointer, or the area about it: what every layer has there, and the story of its light. */
import { computed } from 'vue';
import { coloursOf } from '../../../core/formats/layers.ts';
import { luminance } from '../../../core/data/colour.ts';
import { tellBrightest } from '../../../core/picture/tell-brightest.ts';
import { tellPixel } from '../../../core/picture/tell-pixel.ts';
import { percent, radiance } from '../../format.ts';
import { ROLE_ORDER, useLook } from '../../stores/look.ts';
import { useLookProbe } from '../../stores/look-probe.ts';
import { useShot } from '../../stores/shot.ts';

const look = useLook();
const probe = useLookProbe();
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
      <label class="dim"
        >area
        <select v-model.number="probe.radius" aria-label="Area that is read">
          <option :value="0">1 × 1</option>
          <option :value="1">3 × 3</option>
          <option :value="2">5 × 5</option>
          <option :value="5">11 × 11</option>
        </select></label
      >
      <button
        class="flat"
        :class="{ on: probe.isHeld }"
        :aria-pressed="probe.isHeld"
        title="Holds the pixel that is read (H)"
        @click="probe.isHeld = !probe.isHeld"
      >
        Hold
      </button>
    </p>
    <p v-for="story in stories" :key="story" class="story">{{ story }}</p>
    <table v-if="rows.length">
      <thead>
        <tr>
          <th>Layer</th>
          <th class="right">Value</th>
          <th class="right">Share</th>
          <th class="right" title="Standard deviation over the area, or the standard error that came along">±</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="row in rows"
          :key="row.name"
          :class="{ on: row.name === look.shownLayer?.name }"
          @click="look.layer = row.name"
        >
          <td>{{ look.layerTitle(row.name) }}</td>
          <td class="right num">{{ row.values.join('  ') }}</td>
          <td class="right num">{{ row.share === null ? '' : percent(row.share) }}</td>
          <td class="right num dim">{{ row.deviation === null ? '' : radiance(row.deviation) }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.probe {
  font-size: 12px;
}
.head {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 8px 12px;
}
.head select {
  font: inherit;
  color: var(--soft);
  background: var(--up);
  border: 1px solid var(--line);
}
.story {
  padding: 0 12px 6px;
  color: var(--soft);
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  font-weight: 400;
  color: var(--dim);
  text-align: left;
}
th,
td {
  padding: 2px 6px;
}
table {
  table-layout: fixed;
}
th:nth-child(3) {
  width: 44px;
}
th:nth-child(4) {
  width: 58px;
}
th:nth-child(2) {
  width: 44%;
}
td:first-child {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
td {
  font-size: 11.5px;
}
td:first-child,
th:first-child {
  padding-left: 12px;
}
.right {
  text-align: right;
  white-space: pre;
}
tr.on td {
  background: var(--up);
}
tbody tr {
  cursor: pointer;
}
</style>
