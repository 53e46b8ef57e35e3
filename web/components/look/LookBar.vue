<script setup lang="ts">
/** How the picture is looked at: exposure, gamma, offset, transform, channels, marks; the scale of what is no light. */
import InputNumber from 'primevue/inputnumber';
import { computed } from 'vue';
import { MIDDLE_GREY, STOPS_SHOWN, stopColour } from '../../../core/picture/paint.ts';
import { SPACES } from '../../../core/picture/spaces.ts';
import { TRANSFORMS } from '../../../core/picture/transforms/registry.ts';
import { SCALE } from '../../../core/picture/view.ts';
import { radiance } from '../../format.ts';
import { useLook } from '../../stores/look.ts';

const look = useLook();
const isLight = computed(() => look.mode === 'difference' || (look.shownLayer?.look ?? 'light') === 'light');
const SOLOS = { colour: 'RGB', red: 'R', green: 'G', blue: 'B', alpha: 'A', luminance: 'Y' } as const;
const stops = Array.from({ length: 2 * STOPS_SHOWN + 1 }, (_, i) => i - STOPS_SHOWN);
const BEHIND = { nothing: 'nothing behind', checker: 'checks behind', grey: 'grey behind' };
const GUIDES = { none: 'no guides', thirds: 'thirds', centre: 'centre', safe: 'safe areas' };
const scaleColours = `linear-gradient(90deg, ${SCALE.map((c) => `rgb(${c.join(' ')})`).join(', ')})`;
</script>

<template>
  <div class="bar">
    <label for="look-exposure">Exposure</label>
    <InputNumber
      v-model="look.view.exposure"
      input-id="look-exposure"
      size="small"
      :min="-20"
      :max="20"
      :step="0.5"
      :max-fraction-digits="2"
      suffix=" stops"
      class="field"
    />
    <template v-if="isLight">
      <label for="look-gamma">Gamma</label>
      <InputNumber
        v-model="look.view.gamma"
        input-id="look-gamma"
        size="small"
        :min="0.2"
        :max="5"
        :step="0.05"
        :max-fraction-digits="2"
        class="field short"
      />
      <label for="look-offset">Offset</label>
      <InputNumber
        v-model="look.view.offset"
        input-id="look-offset"
        size="small"
        :min="-10"
        :max="10"
        :step="0.01"
        :max-fraction-digits="4"
        class="field short"
      />
      <button
        class="plain"
        :class="{ on: look.isLifted }"
        :aria-pressed="look.isLifted"
        title="Two stops up and gamma 1.25: shows the noise in the shadows"
        @click="look.toggleLift()"
      >
        Lift <kbd>L</kbd>
      </button>
      <select v-model="look.view.transform" aria-label="View transform" :title="TRANSFORMS[look.view.transform].source">
        <option v-for="(one, id) in TRANSFORMS" :key="id" :value="id" :title="one.source">{{ one.name }}</option>
      </select>
      <select
        v-model="look.view.space"
        aria-label="Space the values are in"
        title="Space the values are in, where the file does not say it"
        :disabled="!!look.shown?.set?.reading.space"
      >
        <option v-for="(one, id) in SPACES" :key="id" :value="id">{{ one.name }}</option>
      </select>
      <span class="solos" role="group" aria-label="Channels">
        <button
          v-for="(name, id) in SOLOS"
          :key="id"
          class="flat"
          :class="{ on: look.view.solo === id }"
          :aria-pressed="look.view.solo === id"
          :title="id"
          @click="look.view.solo = id"
        >
          {{ name }}
        </button>
      </span>
      <button
        class="plain"
        :class="{ on: look.view.isInStops }"
        :aria-pressed="look.view.isInStops"
        title="Luminance in stops from middle grey"
        @click="look.view.isInStops = !look.view.isInStops"
      >
        Stops <kbd>S</kbd>
      </button>
      <button
        class="plain"
        :class="{ on: look.view.marks }"
        :aria-pressed="look.view.marks"
        title="Orange stripes: white or above. Blue stripes: below 0. Magenta: no number"
        @click="look.view.marks = !look.view.marks"
      >
        Marks <kbd>X</kbd>
      </button>
      <select v-if="look.shownLayer?.alpha" v-model="look.view.behind" aria-label="What is behind (V)">
        <option v-for="(name, id) in BEHIND" :key="id" :value="id">{{ name }}</option>
      </select>
      <select v-model="look.guides" aria-label="Guides (U)">
        <option v-for="(name, id) in GUIDES" :key="id" :value="id">{{ name }}</option>
      </select>
    </template>
    <span v-else-if="look.scaleTop !== null" class="scale num"
      ><span>0</span><i :style="{ background: scaleColours }"></i
      ><span>{{ radiance(look.scaleTop / 2 ** look.view.exposure) }}</span></span
    >
  </div>
  <div v-if="look.view.isInStops && isLight" class="bar legend num">
    <span class="dim">stops from {{ MIDDLE_GREY }}</span>
    <span v-for="stop in stops" :key="stop" class="stop"
      ><i :style="{ background: `rgb(${stopColour(stop).join(' ')})` }"></i>{{ stop > 0 ? `+${stop}` : stop }}</span
    >
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 5px 7px;
  padding: 4px 12px;
  background: var(--panel);
  border-top: 1px solid var(--line);
  font-size: 12px;
}
label {
  color: var(--dim);
}
.field :deep(input) {
  width: 68px;
  font-size: 12px;
}
.field.short :deep(input) {
  width: 44px;
}
select {
  font: inherit;
  color: var(--text);
  background: var(--up);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 3px 4px;
}
.solos {
  display: flex;
}
.solos button {
  padding: 3px 5px;
}
.scale,
.stop {
  display: flex;
  gap: 5px;
  align-items: center;
}
.scale i {
  width: 160px;
  height: 9px;
}
.stop {
  gap: 3px;
}
.stop i {
  width: 12px;
  height: 9px;
}
.legend {
  font-size: 11px;
  gap: 5px;
}
</style>
