<script setup lang="ts">
/** How the picture is looked at: exposure, gamma, offset, transform, channels, marks; the scale of what is no light. */
import Select from 'primevue/select';
import SelectButton from 'primevue/selectbutton';
import ToggleButton from 'primevue/togglebutton';
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
const optionsOf = (names: Record<string, string>) => Object.entries(names).map(([id, name]) => ({ id, name }));
const SOLOS = optionsOf({ colour: 'RGB', red: 'R', green: 'G', blue: 'B', alpha: 'A', luminance: 'Y' });
const VIEW_TRANSFORMS = Object.entries(TRANSFORMS).map(([id, { name, source }]) => ({ id, name, source }));
const COLOUR_SPACES = Object.entries(SPACES).map(([id, { name }]) => ({ id, name }));
const stops = Array.from({ length: 2 * STOPS_SHOWN + 1 }, (_, i) => i - STOPS_SHOWN);
const BEHIND = optionsOf({ nothing: 'nothing behind', checker: 'checkerboard behind', grey: 'grey behind' });
const GUIDES = optionsOf({ none: 'no guides', thirds: 'thirds', centre: 'centre', safe: 'safe areas' });
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
      <ToggleButton
        :model-value="look.isBoosted"
        on-label="Shadow boost"
        off-label="Shadow boost"
        title="Two stops up and gamma 1.25: shows the noise in the shadows (L)"
        @update:model-value="look.toggleBoost()"
      />
      <Select
        v-model="look.view.transform"
        :options="VIEW_TRANSFORMS"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="View transform"
        :title="TRANSFORMS[look.view.transform].source"
      >
        <template #option="{ option }"
          ><span :title="option.source">{{ option.name }}</span></template
        >
      </Select>
      <Select
        v-model="look.view.space"
        :options="COLOUR_SPACES"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Colour space of the values"
        title="Colour space of the values, where the file does not say it"
        :disabled="!!look.shown?.set?.reading.space"
      />
      <SelectButton
        v-model="look.view.solo"
        :options="SOLOS"
        option-label="name"
        option-value="id"
        :allow-empty="false"
        aria-label="Channels"
      />
      <ToggleButton
        v-model="look.view.isInStops"
        on-label="Stops"
        off-label="Stops"
        title="Luminance in stops from middle grey (S)"
      />
      <ToggleButton
        v-model="look.view.marks"
        on-label="Marks"
        off-label="Marks"
        title="Orange stripes: white or above. Blue stripes: below 0. Magenta: NaN (X)"
      />
      <Select
        v-if="look.shownLayer?.alpha"
        v-model="look.view.behind"
        :options="BEHIND"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Background (V)"
      />
      <Select
        v-model="look.guides"
        :options="GUIDES"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Guides (U)"
      />
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
  font-size: var(--small);
}
label {
  color: var(--dim);
}
.field :deep(input) {
  width: 68px;
  font-size: var(--small);
}
.field.short :deep(input) {
  width: 44px;
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
  font-size: var(--small);
  gap: 5px;
}
</style>
