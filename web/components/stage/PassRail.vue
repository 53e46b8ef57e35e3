<script setup lang="ts">
/** All passes: two bars say where the light is and where the noise is before anything is clicked. */
import { computed, ref } from 'vue';
import type { PassInfo } from '../../../core/render/film/pass-list.ts';
import { number, passName, percent, radiance } from '../../format.ts';
import { useCurrent } from '../../stores/current.ts';
import { useView } from '../../stores/view.ts';

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
  { label: 'Fog', pass: null, fog: true },
  { label: 'direct', pass: 'volume.direct', fog: true },
  { label: 'indirect', pass: 'volume.indirect', fog: true },
  { label: 'Emission', pass: 'emission' },
  { label: 'Background', pass: 'background' },
];
const light = computed(() => LIGHT.filter((row) => !row.fog || current.document?.fog));

const share = (pass: string) =>
  pass === 'beauty' ? { light: 1, grain: 1 } : (current.figures?.light[pass] ?? { light: 0, grain: 0 });

/** Groups below the light passes; the first is open to begin with. */
const GROUPS: PassInfo['group'][] = ['Cut', 'Noise and cost', 'Data', 'Shadow', 'Light groups', 'Brightest sample'];
const open = ref<Record<string, boolean>>({ Cut: true });
const groups = computed(() =>
  GROUPS.map((name) => ({
    name,
    passes: current.passes.filter((pass) => pass.group === name),
  })).filter((group) => group.passes.length > 0),
);
const isOpen = (name: string, passes: PassInfo[]) => open.value[name] ?? passes.some((pass) => pass.name === view.pass);

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
const title = (pass: string) => {
  const { light: lit, grain } = share(pass);
  return `${passName(pass)}: ${percent(lit)} of the light, ${percent(grain)} of the visible noise`;
};
</script>

<template>
  <nav class="rail" aria-label="Passes">
    <div class="head three"><span>Light passes</span><span>light</span><span>noise</span></div>
    <ul>
      <li v-for="(row, i) in light" :key="i" :class="{ sub: row.label[0] === row.label[0].toLowerCase() }">
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
    <template v-for="group in groups" :key="group.name">
      <button
        class="bare head ruled"
        :aria-expanded="isOpen(group.name, group.passes)"
        @click="open[group.name] = !isOpen(group.name, group.passes)"
      >
        <span>{{ group.name }}</span><span>{{ isOpen(group.name, group.passes) ? '−' : '+' }}</span>
      </button>
      <ul v-if="isOpen(group.name, group.passes)">
        <li v-for="pass in group.passes" :key="pass.name">
          <button
            class="bare row two"
            :class="{ on: view.pass === pass.name }"
            :aria-pressed="view.pass === pass.name"
            @click="view.pass = pass.name"
          >
            <span>{{ passName(pass.name) }}</span><span class="num dim">{{ figureOf(pass.name) }}</span>
          </button>
        </li>
      </ul>
    </template>
    <p v-if="current.figures" class="whole dim">
      Visible noise of the frame: <b class="num">{{ number(current.figures.grain, 1) }}</b> steps after the lift
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
  display: flex;
  justify-content: space-between;
  width: 100%;
  margin-top: 6px;
  border-top: 1px solid var(--line);
  padding-top: 7px;
}
.head.ruled:hover {
  color: var(--text);
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
