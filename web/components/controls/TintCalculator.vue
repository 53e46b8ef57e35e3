<script setup lang="ts">
/** What glass of a material lets through, channel by channel, and the colours that give a tint that is wished for. */
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import SelectButton from 'primevue/selectbutton';
import Slider from 'primevue/slider';
import { computed, ref } from 'vue';
import { hexOf } from '../../../core/data/hex-colour.ts';
import { tellSigned } from '../../../core/figures/effect.ts';
import { listed } from '../../../core/diagnose/words.ts';
import type { MaterialSpec, ShotDocument } from '../../../core/document/schema.ts';
import { metres } from '../../../core/intake/preflight/tell.ts';
import { atLightness, lightnessOf, type Lightness } from '../../../core/tint/lightness.ts';
import { glassOf, swallowed, throughStack, type Rgb } from '../../../core/tint/stack.ts';
import { attenuationFor, baseColourFor } from '../../../core/tint/wish.ts';
import { percent } from '../../format.ts';
import ColourField from './ColourField.vue';
import TintOverPicture from './TintOverPicture.vue';

const props = defineProps<{ document: ShotDocument; id: string; material: MaterialSpec }>();
const emit = defineEmits<{ set: [key: 'baseColour' | 'attenuationDistance', value: unknown] }>();

const isThin = computed(() => Object.values(props.document.objects).some(({ material, thin }) => thin && material === props.id)); // prettier-ignore
const bodies = ref(1);
const millimetres = ref(4);
const stack = computed(() => ({ bodies: bodies.value, metres: millimetres.value / 1000 }));
const glass = computed(() => glassOf(props.material, isThin.value));
const answer = computed<{ through: Rgb } | { problem: string }>(() => {
  try {
    return { through: throughStack(glass.value, stack.value) };
  } catch (error) {
    return { problem: (error as Error).message };
  }
});
const through = computed(() => ('through' in answer.value ? answer.value.through : null));

const CHANNELS = ['red', 'green', 'blue'];
const rows = computed(() => (through.value ?? []).map((share, k) => ({ name: CHANNELS[k], share, stops: share > 0 ? tellSigned(Math.log2(share)) : 'no' }))); // prettier-ignore
const warning = computed(() => {
  const lost = through.value ? swallowed(through.value) : [];
  if (lost.length === 3) return 'It lets nothing through: black filters all light. Clear glass is white.';
  return lost.length ? `Nothing of ${listed(lost.map((k) => CHANNELS[k]))} gets through: what is behind has none of it.` : ''; // prettier-ignore
});
/** Behind it: white, a middle grey, and black, which stays black. */
const BEHIND = [1, 0.18];
const behind = (grey: number) => hexOf((through.value ?? [0, 0, 0]).map((share) => share * grey));

const by = ref<Lightness>('oklch');
const lightness = computed({
  get: () => +lightnessOf(props.material.baseColour as Rgb, by.value).toFixed(3),
  set: (value: number) => emit('set', 'baseColour', atLightness(props.material.baseColour as Rgb, by.value, value).map((part) => +part.toFixed(4))), // prettier-ignore
});

const wish = ref<Rgb>([0.5, 0.7, 0.5]);
const base = computed(() => (through.value ? baseColourFor(glass.value, stack.value, wish.value) : null));
const distance = computed(() => (through.value && !isThin.value ? attenuationFor(glass.value, stack.value, props.material.attenuationColour as Rgb, wish.value) : null)); // prettier-ignore
const setBase = () =>
  emit(
    'set',
    'baseColour',
    base.value!.value!.map((part) => +part.toFixed(4)),
  );
const setDistance = () => emit('set', 'attenuationDistance', +distance.value!.value!.toPrecision(3));
</script>

<template>
  <section class="tool-below" aria-label="Tint of this glass">
    <h2>What gets through</h2>
    <div class="stack soft">
      <label
        >{{ isThin ? 'Thin walls' : 'Bodies' }} in a row
        <InputNumber
          v-model="bodies"
          :min="0"
          :max="1000"
          size="small"
          aria-label="Bodies of glass in a row"
          show-buttons
        />
      </label>
      <label v-if="!isThin"
        >each
        <InputNumber
          v-model="millimetres"
          :min="0"
          :max="1e6"
          :max-fraction-digits="3"
          suffix=" mm"
          size="small"
          aria-label="Way through each, millimetres"
        />
      </label>
    </div>
    <p v-if="'problem' in answer" class="bad" role="alert">{{ answer.problem }}</p>
    <template v-else>
      <div class="swatches" role="img" :aria-label="`Over white and middle grey: ${behind(1)}, ${behind(0.18)}`">
        <span v-for="grey in BEHIND" :key="grey" :style="{ background: hexOf([grey, grey, grey]) }"
          ><i :style="{ background: behind(grey) }"></i
        ></span>
      </div>
      <TintOverPicture v-if="through" :through="through" />
      <ul class="num soft" aria-label="What gets through, by channel">
        <li v-for="row in rows" :key="row.name">
          {{ row.name }} {{ percent(row.share) }}<br /><span class="dim">{{ row.stops }} stops</span>
        </li>
      </ul>
      <p v-if="material.baseColourMap !== null" class="dim">By the base colour alone: its map is not counted.</p>
      <p v-if="warning" class="tag" role="status">{{ warning }}</p>
      <div class="line soft">
        <span>Lightness of the base colour</span>
        <SelectButton
          v-model="by"
          :options="[
            { id: 'oklch', name: 'OKLCH' },
            { id: 'hsl', name: 'HSL' },
          ]"
          option-label="name"
          option-value="id"
          :allow-empty="false"
          size="small"
          aria-label="Lightness by"
        />
      </div>
      <Slider v-model="lightness" :min="0" :max="1" :step="0.01" aria-label="Lightness of the base colour" />
      <div class="line soft">
        <span>This colour through it</span>
        <ColourField label="Colour that is wished for" :value="wish" :min="0" :max="1" @set="wish = $event as Rgb" />
      </div>
      <div class="line">
        <Button size="small" severity="secondary" :disabled="!base?.value" @click="setBase">Set the base colour</Button>
        <Button
          v-if="distance"
          size="small"
          severity="secondary"
          :disabled="!distance.value"
          :title="
            distance.value
              ? 'As bright as that, in the attenuation colour'
              : 'Needs an attenuation colour that is not white'
          "
          @click="setDistance"
          >{{
            distance.value
              ? `Attenuation distance ${metres(+distance.value.toPrecision(3))}`
              : 'No attenuation distance does'
          }}</Button
        >
      </div>
      <p v-if="base && !base.value" class="dim">
        No glass of this index lets so much through: at most
        {{ base.through.map((share) => percent(share)).join(', ') }}.
      </p>
    </template>
  </section>
</template>

<style scoped>
.stack,
.line,
ul {
  display: flex;
  gap: 10px;
  align-items: center;
  justify-content: space-between;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
label {
  display: flex;
  gap: 6px;
  align-items: center;
}
.stack :deep(input) {
  width: 74px;
}
.swatches {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
  height: 44px;
}
.swatches span {
  display: grid;
  padding: 0 30%;
}
.line :deep(.colour input) {
  width: 56px;
}
</style>
