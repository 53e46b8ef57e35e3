<script setup lang="ts">
/** A colour: a swatch that opens a picker, and its numbers in linear, sRGB and hexadecimal. What is not touched keeps its bits. */
import Button from 'primevue/button';
import ColorPicker from 'primevue/colorpicker';
import InputNumber from 'primevue/inputnumber';
import InputText from 'primevue/inputtext';
import Popover from 'primevue/popover';
import { computed, useTemplateRef } from 'vue';
import { linearFromSrgb, srgbFromLinear } from '../../../core/data/colour.ts';
import { hexOf, linearOfHex } from '../../../core/data/hex-colour.ts';
import LinearNumbers from './LinearNumbers.vue';

const props = defineProps<{
  label: string;
  value: number[];
  min?: number;
  max?: number;
  /** Its numbers are in the picker alone. */
  isNarrow?: boolean;
}>();
const emit = defineEmits<{ set: [value: number[]] }>();
const popover = useTemplateRef('popover');

/** Beyond white a display shows the hue alone. */
const scale = computed(() => Math.max(1, ...props.value));
const hex = computed(() => hexOf(props.value.map((part) => part / scale.value)));
const setPart = (at: number, part: number | null) =>
  part !== null && emit('set', props.value.map((old, i) => (i === at ? part : old))); // prettier-ignore
/** A picked hue keeps how far beyond white it is. */
function setHex(text: string): void {
  const linear = linearOfHex(text);
  if (linear && hexOf(linear) !== hex.value)
    emit(
      'set',
      linear.map((part) => part * scale.value),
    );
}
const NAMES = ['red', 'green', 'blue'];
</script>

<template>
  <span class="colour" :class="{ narrow: isNarrow }">
    <Button
      unstyled
      class="bare swatch"
      :aria-label="`${label}: ${hex}; open the colour picker`"
      :title="hex"
      :style="{ background: hex }"
      @click="popover?.toggle($event)"
    />
    <span v-if="isNarrow" class="dim num">{{ hex }}</span>
    <LinearNumbers v-else :label="label" :value="value" :min="min" :max="max" @set="setPart" />
    <Popover ref="popover">
      <div class="picker">
        <ColorPicker :model-value="hex.slice(1)" inline @update:model-value="setHex($event)" />
        <dl>
          <dt>hex</dt>
          <dd>
            <InputText
              :model-value="hex"
              size="small"
              :aria-label="`${label}, hexadecimal sRGB`"
              @change="setHex(($event.target as HTMLInputElement).value)"
            />
          </dd>
          <dt>sRGB</dt>
          <dd>
            <InputNumber
              v-for="(part, i) in value"
              :key="i"
              :model-value="Math.round(255 * srgbFromLinear(Math.min(1, part / scale)))"
              size="small"
              :min="0"
              :max="255"
              :aria-label="`${label}, ${NAMES[i]}, sRGB of 255`"
              @update:model-value="$event !== null && setPart(i, linearFromSrgb($event / 255) * scale)"
            />
          </dd>
          <dt>linear</dt>
          <dd v-if="isNarrow">
            <LinearNumbers :label="label" :value="value" :min="min" :max="max" @set="setPart" />
          </dd>
          <dd v-else class="num">{{ value.map((part) => +part.toPrecision(4)).join('  ') }}</dd>
        </dl>
        <p v-if="scale > 1" class="dim">
          Brighter than white: shown at its hue, {{ scale.toPrecision(3) }} times as bright.
        </p>
      </div>
    </Popover>
  </span>
</template>

<style scoped>
.colour {
  display: grid;
  grid-template-columns: 22px repeat(3, minmax(0, 1fr));
  gap: 4px;
  align-items: center;
}
.colour.narrow {
  grid-template-columns: 22px 1fr;
}
.swatch {
  width: 22px;
  height: 22px;
  border: 1px solid #5a5a5a;
  border-radius: 3px;
}
.colour :deep(input),
.picker :deep(input) {
  width: 100%;
  font-size: var(--small);
  padding-inline: 4px;
  text-align: right;
}
.picker {
  display: grid;
  gap: 8px;
  width: 230px;
}
dl {
  display: grid;
  grid-template-columns: 46px 1fr;
  gap: 4px 8px;
  align-items: center;
  margin: 0;
}
dt {
  color: var(--dim);
}
dd {
  margin: 0;
  display: flex;
  gap: 4px;
}
</style>
