<script setup lang="ts">
/** Ambient occlusion at any distance: drawn while the distance is dragged, beside what the pass tells at each. */
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import Slider from 'primevue/slider';
import { computed, defineAsyncComponent, nextTick, onBeforeUnmount, ref, useTemplateRef, watch } from 'vue';
import { figuresOf } from '../../../core/occlusion/curve.ts';
import { opennessAt } from '../../../core/occlusion/distances.ts';
import { metres } from '../../../core/intake/preflight/tell.ts';
import { CHART_LOOK } from '../../chart-look.ts';
import { percent } from '../../format.ts';
import { useCurrent } from '../../stores/current.ts';
import { useOcclusion } from '../../stores/occlusion.ts';
import { usePending } from '../../stores/pending.ts';

const occlusion = useOcclusion();
const current = useCurrent();
const pending = usePending();
// The chart library is most of the page's weight: it comes when a chart does.
const Chart = defineAsyncComponent(() => import('vue3-apexcharts'));

const told = computed(() => occlusion.asked?.occlusion ?? null);
/** Metres that are looked at; null: any distance. */
const distance = ref<number | null>(null);
watch(told, (now, before) => now && (!before || before.distance !== now.distance) && (distance.value = now.distance));

const values = computed(() => {
  if (!told.value) return null;
  return opennessAt(told.value, distance.value ?? Infinity, told.value, new Float32Array(told.value.cells.length)); // prettier-ignore
});
const figures = computed(() => values.value && figuresOf(values.value, distance.value ?? Infinity));
const best = computed(() => told.value?.curve.best ?? null);

const canvas = useTemplateRef('pass');
watch(
  values,
  async (open) => {
    await nextTick();
    if (!canvas.value || !told.value || !open) return;
    const { width, height, cells } = told.value;
    const pixels = new Uint8ClampedArray(4 * width * height);
    for (let i = 0; i < width * height; i++) pixels[4 * i + 3] = 255;
    for (let k = 0; k < cells.length; k++) pixels.fill(255 * open[k], 4 * cells[k], 4 * cells[k] + 3);
    [canvas.value.width, canvas.value.height] = [width, height];
    canvas.value.getContext('2d')!.putImageData(new ImageData(pixels, width, height), 0, 0);
  },
  { immediate: true },
);

/** The slider goes by powers of ten. */
const ends = computed(() => {
  const { points } = told.value!.curve;
  return [Math.log10(points[0].metres), Math.log10(points[points.length - 1].metres)];
});
const power = computed({
  get: () => (distance.value === null ? ends.value[1] : Math.log10(distance.value)),
  set: (value: number) => (distance.value = +(10 ** value).toPrecision(2)),
});

const short = (value: number) => metres(+value.toPrecision(2));
const TITLE = { color: '#9a9a9a', fontSize: '12px', fontWeight: 400 };
const options = computed(() => ({
  chart: CHART_LOOK,
  theme: { mode: 'dark' },
  colors: ['#e9e9e9', '#d6dc5c', '#7a7a7a'],
  stroke: { width: [1.6, 2, 1.6], curve: 'straight', dashArray: [0, 0, 4] },
  grid: { borderColor: '#2e2e2e', padding: { left: 4, right: 14, top: -22, bottom: -6 } },
  legend: { fontSize: '12px', markers: { size: 5 }, itemMargin: { horizontal: 6 } },
  tooltip: { theme: 'dark', x: { formatter: (x: number) => short(10 ** x) }, y: { formatter: (y: number) => `${y.toFixed(0)} %` } }, // prettier-ignore
  annotations: {
    xaxis: [
      { x: power.value, borderColor: '#ff9c8a', label: { text: distance.value === null ? 'any' : short(distance.value), style: { background: '#3a2a26', color: '#ff9c8a' } } }, // prettier-ignore
      ...(best.value ? [{ x: Math.log10(best.value.from), x2: Math.log10(best.value.to), fillColor: '#d6dc5c', opacity: 0.12, borderColor: 'transparent' }] : []), // prettier-ignore
    ],
  },
  xaxis: { type: 'numeric', min: ends.value[0], max: ends.value[1], tickAmount: 5, labels: { style: { fontSize: '12px' }, offsetY: -3, formatter: (x: string) => short(10 ** Number(x)) }, axisBorder: { show: false }, tooltip: { enabled: false } }, // prettier-ignore
  yaxis: { min: 0, max: 100, tickAmount: 2, decimalsInFloat: 0, title: { text: '% of the points', style: TITLE }, labels: { style: { fontSize: '12px' }, offsetX: -6 } }, // prettier-ignore
}));
const series = computed(() =>
  (
    [
      ['open', 'open'],
      ['between', 'in between'],
      ['shut', 'occluded'],
    ] as const
  ).map(([of, name]) => ({
    name,
    data: told.value!.curve.points.map((one) => ({
      x: Math.log10(one.metres),
      y: 100 * one[of],
    })),
  })),
);

const isSet = computed(() => told.value !== null && told.value.distance !== distance.value);
const set = () => (pending.sheets[current.sheetName]['/occlusion/distance'] = distance.value);
onBeforeUnmount(() => (occlusion.isOpen = false));
</script>

<template>
  <section class="occlusion" aria-label="Occlusion by distance">
    <header>
      <h3>Ambient occlusion</h3>
      <Button
        size="small"
        severity="secondary"
        variant="text"
        :aria-expanded="occlusion.isOpen"
        title="The occlusion pass at any distance, from one trace"
        @click="occlusion.isOpen = !occlusion.isOpen"
        >{{ occlusion.isOpen ? 'Close' : 'Find the distance' }}</Button
      >
    </header>
    <template v-if="occlusion.isOpen">
      <p v-if="occlusion.problem" class="bad" role="alert">{{ occlusion.problem }}</p>
      <p v-else-if="!told" class="soft" role="status">Tracing …</p>
      <p v-else-if="told.curve.points.length === 0" class="soft" role="status">
        Nothing that is seen is occluded by anything, at any distance.
      </p>
      <template v-else>
        <canvas
          ref="pass"
          role="img"
          :aria-label="`Occlusion at ${distance === null ? 'any distance' : short(distance)}`"
        ></canvas>
        <Slider
          v-model="power"
          :min="ends[0]"
          :max="ends[1]"
          :step="0.01"
          aria-label="Occlusion distance, logarithmic"
        />
        <p v-if="figures" role="status" class="num">
          {{ percent(figures.open) }} open, {{ percent(figures.shut) }} shut; {{ figures.information.toFixed(1) }} bits
          a place<template v-if="best">, most from {{ short(best.from) }} to {{ short(best.to) }}</template
          >.
        </p>
        <div class="room" role="img" aria-label="Shares open, in between and shut at each distance">
          <Chart type="line" height="150" :options="options" :series="series" />
        </div>
        <div class="bar">
          <InputNumber
            v-model="distance"
            :min="0.000001"
            :max="1e9"
            :max-fraction-digits="6"
            allow-empty
            placeholder="any"
            suffix=" m"
            size="small"
            aria-label="Occlusion distance, metres"
          />
          <Button v-if="best" size="small" severity="secondary" @click="distance = best.metres"
            >{{ short(best.metres) }} tells most</Button
          >
          <Button
            size="small"
            :disabled="!isSet"
            title="Sets the sheet’s occlusion distance, without keeping it yet"
            @click="set"
            >Set</Button
          >
        </div>
        <p class="dim num">
          {{ told.first.length.toLocaleString('en') }} rays in {{ occlusion.asked!.took.toFixed(0) }} ms<template
            v-if="told.seeThrough"
            >; glass is see-through</template
          >
        </p>
      </template>
    </template>
  </section>
</template>

<style scoped>
.occlusion {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
header,
.bar {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
}
canvas {
  width: 100%;
  image-rendering: pixelated;
  background: #000;
}
.num {
  white-space: normal;
}
.room {
  height: 150px;
  margin: 0 -6px 0 0;
}
.bar :deep(input) {
  width: 96px;
}
</style>
