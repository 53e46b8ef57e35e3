<script setup lang="ts">
/** Exposure, gamma and the shadow boost; the pixel under the pointer in figures and in words. */
import ToggleButton from 'primevue/togglebutton';
import InputNumber from 'primevue/inputnumber';
import { computed } from 'vue';
import { tellPixel } from '../../../core/picture/tell-pixel.ts';
import { SCALE } from '../../../core/picture/view.ts';
import { lookOf } from '../../../core/render/film/pass-list.ts';
import { pathOf } from '../../../core/render/path/signature.ts';
import { radiance } from '../../format.ts';
import { useCurrent } from '../../stores/current.ts';
import { useProbe } from '../../stores/probe.ts';
import { useView } from '../../stores/view.ts';

const view = useView();
const current = useCurrent();
const probe = useProbe();

/** One-channel passes are shown on a scale, where gamma means nothing. */
const look = computed(() => lookOf(view.pass));
const isScale = computed(() => ['amount', 'count', 'share', 'flow'].includes(look.value));
const scaleTop = computed(() => (current.figures?.tops[view.pass] ?? 1) / 2 ** view.exposure);
const scaleColours = `linear-gradient(90deg, ${SCALE.map((c) => `rgb(${c.join(' ')})`).join(', ')})`;

const figures = computed(() => {
  const values = probe.byChannel;
  if (!values) return null;
  const channels = current.passes.find((pass) => pass.name === view.pass)?.channels ?? [];
  const read = channels.map((name) => values[name]).filter((value) => value !== undefined);
  const single = values[view.pass];
  return {
    value: named(single) ?? read.map(scaled).join('  '),
    error: single === undefined ? values[`error.${view.pass}`] : undefined,
  };
});
/** What the number of an id pass stands for. */
function named(id: number | undefined): string | null {
  const document = current.document;
  if (id === undefined || look.value !== 'id' || !document) return null;
  if (view.pass === 'brightest.path') return pathOf(id);
  const part = view.pass === 'material' ? 'materials' : view.pass === 'brightest.light' ? 'lights' : 'objects';
  const key = Object.keys(document[part]).sort()[id - 1];
  return id === 0
    ? 'none'
    : (document[part][key]?.name ?? key ?? (part === 'lights' ? 'environment or glow' : String(id)));
}
/** Counts as they are, shares and radiances with three digits. */
const scaled = (value: number) => (Number.isInteger(value) ? String(value) : radiance(value));
const told = computed(() => {
  if (!probe.byChannel || !current.sheet) return 'Point at a pixel to read it.';
  const error = figures.value?.error;
  return [error === undefined ? '' : `± ${radiance(error)}`, tellPixel(probe.byChannel, current.sheet.limits)].filter(Boolean).join('; '); // prettier-ignore
});
</script>

<template>
  <div class="bar">
    <label for="exposure">Exposure</label>
    <InputNumber
      v-model="view.exposure"
      input-id="exposure"
      size="small"
      :min="-10"
      :max="10"
      :step="0.5"
      :min-fraction-digits="1"
      :max-fraction-digits="2"
      suffix=" stops"
      class="field"
    />
    <span v-if="isScale" class="scale num">
      <span>0</span><i :style="{ background: scaleColours }"></i><span>{{ scaled(scaleTop) }}</span>
    </span>
    <template v-else-if="look === 'light'">
      <label for="gamma">Gamma</label>
      <InputNumber
        v-model="view.gamma"
        input-id="gamma"
        size="small"
        :min="0.2"
        :max="5"
        :step="0.05"
        :min-fraction-digits="2"
        :max-fraction-digits="2"
        class="field short"
      />
      <ToggleButton
        :model-value="view.isBoosted"
        on-label="Shadow boost"
        off-label="Shadow boost"
        title="Two stops up and gamma 1.25: shows the noise in the shadows (L)"
        @update:model-value="view.toggleBoost()"
      />
    </template>
    <ToggleButton
      v-if="(current.finding || view.panel === 'scene') && !current.trial && !current.sweep"
      v-model="view.showMask"
      on-label="Mask"
      off-label="Mask"
      title="Hatch the pixels of the finding, or of the object whose controls are open (M)"
    />
    <span class="gap"></span>
    <span v-if="probe.at" class="num probe">
      <b>{{ probe.at.x }}, {{ probe.at.y }}</b>
      <span v-if="figures">{{ figures.value }}</span>
    </span>
  </div>
  <p class="told soft" :class="{ dim: !probe.values }" :title="told">{{ told }}</p>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 7px;
  padding: 4px 12px;
  background: var(--panel);
  border-top: 1px solid var(--line);
  font-size: var(--small);
  white-space: nowrap;
  min-width: 0;
  overflow: hidden;
}
label {
  color: var(--dim);
}
.field :deep(input) {
  width: 70px;
  font-size: var(--small);
}
.field.short :deep(input) {
  width: 44px;
}
.scale {
  display: flex;
  gap: 6px;
  align-items: center;
}
.scale i {
  width: 120px;
  height: 9px;
}
.probe {
  display: flex;
  gap: 10px;
  white-space: pre;
}
.told {
  background: var(--panel);
  font-size: var(--small);
  padding: 2px 12px 6px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
