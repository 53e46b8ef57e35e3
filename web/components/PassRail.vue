<script setup lang="ts">
/** All passes: two bars say where the light is and where the grain is before anything is clicked. */
import { computed } from 'vue';
import { number, passName, percent, radiance } from '../format.ts';
import { useCurrent } from '../stores/current.ts';
import { useView } from '../stores/view.ts';

const view = useView();
const current = useCurrent();

const LIGHT = [
  { label: 'Beauty', pass: 'beauty' },
  { label: 'Diffuse', pass: null },
  { label: 'direct', pass: 'diffuse.direct' },
  { label: 'indirect', pass: 'diffuse.indirect' },
  { label: 'Specular', pass: null },
  { label: 'direct', pass: 'specular.direct' },
  { label: 'indirect', pass: 'specular.indirect' },
  { label: 'Transmission', pass: null },
  { label: 'direct', pass: 'transmission.direct' },
  { label: 'indirect', pass: 'transmission.indirect' },
  { label: 'Emission', pass: 'emission' },
  { label: 'Background', pass: 'background' },
];

const share = (pass: string) =>
  pass === 'beauty' ? { light: 1, grain: 1 } : (current.figures?.light[pass] ?? { light: 0, grain: 0 });

const measured = computed(() => {
  const f = current.figures;
  const cut = (kind: string) => (f ? percent(f.cuts[kind]) : '–');
  return [
    { pass: 'crossings', figure: f ? `most ${f.crossings.most}` : '–' },
    { pass: 'cut.transmission', figure: cut('transmission') },
    { pass: 'cut.specular', figure: cut('specular') },
    { pass: 'cut.diffuse', figure: cut('diffuse') },
    { pass: 'cut.overall', figure: cut('overall') },
    { pass: 'cut.any', figure: cut('any') },
    { pass: 'error.beauty', figure: f ? radiance(f.error) : '–' },
    { pass: 'samples', figure: current.render ? number(current.render.samplesDone) : '–' },
    { pass: 'cost', figure: f ? `${number(f.cost, 1)} rays` : '–' },
  ];
});
const title = (pass: string) => {
  const { light, grain } = share(pass);
  return `${passName(pass)}: ${percent(light)} of the light, ${percent(grain)} of the visible grain`;
};
</script>

<template>
  <nav class="rail" aria-label="Passes">
    <div class="head three"><span>Light passes</span><span>light</span><span>grain</span></div>
    <ul>
      <li v-for="(row, i) in LIGHT" :key="i" :class="{ sub: row.label[0] === row.label[0].toLowerCase() }">
        <span v-if="row.pass === null" class="kind">{{ row.label }}</span>
        <button
          v-else
          class="bare row three"
          :class="{ on: view.pass === row.pass }"
          :aria-pressed="view.pass === row.pass"
          :title="title(row.pass)"
          @click="view.pass = row.pass"
        >
          <span>{{ row.label }}</span>
          <span class="bar"><i :style="{ width: `${share(row.pass).light * 100}%` }"></i></span>
          <span class="bar grain"><i :style="{ width: `${share(row.pass).grain * 100}%` }"></i></span>
        </button>
      </li>
    </ul>
    <div class="head ruled"><span>Measured</span></div>
    <ul>
      <li v-for="row in measured" :key="row.pass">
        <button
          class="bare row two"
          :class="{ on: view.pass === row.pass }"
          :aria-pressed="view.pass === row.pass"
          @click="view.pass = row.pass"
        >
          <span>{{ passName(row.pass) }}</span><span class="num dim">{{ row.figure }}</span>
        </button>
      </li>
    </ul>
    <p v-if="current.figures" class="whole dim">
      Visible grain of the frame: <b class="num">{{ number(current.figures.grain, 1) }}</b> steps after the lift
    </p>
  </nav>
</template>

<style scoped>
.rail {
  height: 100%;
  background: var(--panel);
  padding: 6px 0;
  overflow: auto;
  font-size: 12px;
}
.head {
  padding: 6px 12px 3px;
  color: var(--dim);
  font-size: 11px;
}
.head.ruled {
  margin-top: 8px;
  border-top: 1px solid var(--line);
  padding-top: 9px;
}
.three {
  display: grid;
  grid-template-columns: 1fr 38px 38px;
  gap: 6px;
  align-items: center;
}
.two {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.kind {
  display: block;
  padding: 0 12px;
  line-height: 20px;
  color: var(--dim);
}
button.row {
  width: 100%;
  height: 20px;
  padding: 0 12px;
  color: var(--soft);
  white-space: nowrap;
}
.sub button.row {
  padding-left: 24px;
}
button.row:hover {
  background: #232323;
}
button.row.on {
  background: var(--up);
  color: var(--text);
  box-shadow: inset 2px 0 var(--act);
}
.bar {
  height: 7px;
  background: #2e2e2e;
  position: relative;
}
.bar i {
  position: absolute;
  inset: 0 auto 0 0;
  background: #9c9c9c;
}
.bar.grain i {
  background: repeating-linear-gradient(90deg, #d8d8d8 0 1px, #555 1px 3px);
}
.whole {
  padding: 10px 12px;
  font-size: 11px;
}
.whole b {
  color: var(--text);
}
</style>
