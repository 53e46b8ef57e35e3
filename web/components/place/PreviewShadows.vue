<script setup lang="ts">
/** Shadows of a real-time preview by depth maps, beside those that are there: live while their settings are turned. */
import Button from 'primevue/button';
import Select from 'primevue/select';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, nextTick, onBeforeUnmount, useTemplateRef, ref, watch } from 'vue';
import type { PreviewShadowsSpec } from '../../../core/document/schema.ts';
import { capital, listed } from '../../../core/diagnose/words.ts';
import { controlsOf, type Control } from '../../../core/document/controls.ts';
import { REASONS, type ReasonId } from '../../../core/shadow-map/reasons.ts';
import { percent } from '../../format.ts';
import { pictureOfMaps, REASON_COLOURS } from '../../place/map-picture.ts';
import { usePending } from '../../stores/pending.ts';
import { usePreviewMaps } from '../../stores/preview-maps.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import ControlField from '../controls/ControlField.vue';

const maps = usePreviewMaps();
const shot = useShot();
const pending = usePending();
const view = useView();

const isMarked = ref(true);
const told = computed(() => maps.asked?.maps ?? null);
const isKept = computed(() => shot.state!.document.previewShadows !== null);

const canvases = { shown: useTemplateRef('shown'), lit: useTemplateRef('lit') };
watch(
  [told, isMarked],
  async () => {
    await nextTick();
    for (const of of ['shown', 'lit'] as const) {
      const canvas = canvases[of].value;
      if (!canvas || !told.value) continue;
      [canvas.width, canvas.height] = [told.value.width, told.value.height];
      canvas.getContext('2d')!.putImageData(pictureOfMaps(told.value, of, of === 'shown' && isMarked.value), 0, 0);
    }
  },
  { immediate: true },
);

const labelOf = (id: ReasonId) => REASONS.find((one) => one.id === id)!.label;
const sentence = computed(() => {
  if (!told.value) return '';
  const { light, told: answer } = told.value;
  if (answer.faced === 0) return `${capital(light.name)} shines on nothing that is seen.`;
  if (answer.wrong < 0.0005) return `The preview’s shadows of ${light.name} are as they are.`;
  const [pair] = answer.together;
  const hidden = pair && pair.share > answer.reasons[0].share / 2 ? ` ${capital(listed(pair.ids.map(labelOf)))}: raising either one alone brings nothing back.` : ''; // prettier-ignore
  return `Of what ${light.name} lights, ${percent(answer.missing)} lacks its shadow and ${percent(answer.false)} is shaded by mistake.${hidden}`;
});
const facts = computed(() => {
  const { told: answer } = told.value!;
  const { texels, splits, traced } = answer;
  return [
    ...(Number.isFinite(texels.median) ? [`texels ${texels.median.toFixed(2)} px, up to ${texels.most.toFixed(2)}`] : []), // prettier-ignore
    ...(splits.length > 1 ? [`splits at ${splits.map((metres) => +metres.toPrecision(2)).join(', ')} m`] : []),
    `${traced.toLocaleString('en')} texels traced in ${maps.asked!.took.toFixed(0)} ms`,
  ].join(' · ');
});

/** Controls with what is set; those that mean nothing for the light or the filter are left out. */
const controls = computed(() => {
  if (!isKept.value) return [];
  const all = controlsOf(shot.state!.document, { pointer: '/previewShadows' });
  const filter = all.find(({ pointer }) => pointer.endsWith('/filter'))!;
  const isSun = (told.value?.told.splits.length ?? 0) > 0;
  const ofLamps = ['/previewShadows/near'];
  const ofSuns = ['/previewShadows/cascades', '/previewShadows/splitBlend'];
  return all.filter(
    ({ pointer, when }) =>
      (!when || when.is.includes(String(pending.shown(filter)))) && !(isSun ? ofLamps : ofSuns).includes(pointer),
  );
});
const set = (control: Control, value: unknown) => pending.set(shot.state!.document, control, value);

const isSet = computed(() => controls.value.some((control) => pending.isSet(control)));

/** What a fit would set otherwise than it stands. */
const better = computed(() => {
  const { fitted, spec } = told.value ?? { fitted: null, spec: null };
  if (!fitted || !spec || !isKept.value) return [];
  return (Object.keys(fitted.spec) as (keyof PreviewShadowsSpec)[]).filter((key) => fitted.spec[key] !== spec[key]);
});
function fit(): void {
  const { fitted } = told.value!;
  for (const key of better.value) pending.put(shot.state!.document, `/previewShadows/${key}`, fitted!.spec[key]);
}
const givesWay = computed(() => {
  const fitted = told.value?.fitted;
  if (!fitted?.givesWay) return '';
  return `Texels stay up to ${fitted.texel.toFixed(1)} px wide${fitted.fineFrom === null ? '' : ` nearer than ${+fitted.fineFrom.toPrecision(2)} m`}: no maps within reach are finer.`; // prettier-ignore
});
const keep = () => shot.addItem('/previewShadows', told.value!.spec);
const drop = () => shot.addItem('/previewShadows', null);

onBeforeUnmount(() => (maps.isOpen = false));
</script>

<template>
  <section class="maps" aria-label="Preview shadows">
    <header>
      <h3>Preview shadows</h3>
      <Button
        size="small"
        severity="secondary"
        variant="text"
        :aria-expanded="maps.isOpen"
        title="Shadows by depth maps, as a real-time preview has them, beside the traced ones"
        @click="maps.isOpen = !maps.isOpen"
        >{{ maps.isOpen ? 'Close' : 'Compare with traced' }}</Button
      >
    </header>
    <template v-if="maps.isOpen">
      <p v-if="maps.problem" class="bad" role="alert">{{ maps.problem }}</p>
      <p v-else-if="!maps.asked" class="soft" role="status">Tracing …</p>
      <p v-else-if="!told" class="soft" role="status">
        No light of this shot has depth maps: an environment lights from all around, and a glowing mesh from all of its
        faces.
      </p>
      <template v-else>
        <div class="bar">
          <Select
            :model-value="told.light.id"
            :options="told.lights"
            option-label="name"
            option-value="id"
            size="small"
            aria-label="Light whose preview shadows are shown"
            @update:model-value="maps.light = $event"
          />
          <label class="soft"><ToggleSwitch v-model="isMarked" /> Mark what is wrong</label>
        </div>
        <p role="status">{{ sentence }}</p>
        <figure :class="{ busy: maps.isAsking }">
          <canvas ref="shown" role="img" :aria-label="`By depth maps. ${sentence}`"></canvas>
          <figcaption class="dim">by depth maps</figcaption>
          <canvas ref="lit" role="img" aria-label="Traced: the shadow of the middle of the light"></canvas>
          <figcaption class="dim">traced</figcaption>
        </figure>
        <ul v-if="told.told.reasons.length" aria-label="Why it is wrong">
          <li v-for="one in told.told.reasons" :key="one.id">
            <i :style="{ background: `rgb(${REASON_COLOURS[one.id].join(' ')})` }"></i>{{ labelOf(one.id) }}
            <span class="num soft">{{ percent(one.share) }}</span>
          </li>
        </ul>
        <p class="dim num facts">{{ facts }}</p>
        <template v-if="isKept">
          <div v-for="control in controls" :key="control.key" class="control" :class="{ set: pending.isSet(control) }">
            <span class="soft" :title="control.help"
              >{{ control.label }}<span v-if="control.unit" class="dim unit">{{ control.unit }}</span></span
            >
            <ControlField :control="control" :value="pending.shown(control)" @set="set(control, $event)" />
          </div>
          <div class="bar">
            <Button
              size="small"
              :disabled="better.length === 0"
              title="The least distances, texels and bias that show every shadow; set, not kept"
              @click="fit"
              >Fit to this camera</Button
            >
            <Button size="small" severity="secondary" variant="text" @click="drop">Remove from the shot</Button>
          </div>
          <p v-if="isSet" class="dim">
            What is set is not kept yet:
            <Button variant="link" class="name" @click="view.showDial('/previewShadows/filter')"
              >keep it in Scene</Button
            >
          </p>
          <p v-if="givesWay" class="dim">{{ givesWay }}</p>
        </template>
        <template v-else>
          <p class="soft">The shot has no preview shadows. These are fitted to this camera.</p>
          <Button size="small" @click="keep">Keep them in the shot</Button>
        </template>
      </template>
    </template>
  </section>
</template>

<style scoped>
.maps {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
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
figure {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 2px;
  margin: 0;
}
figure.busy canvas:first-child {
  opacity: 0.7;
}
canvas {
  width: 100%;
  image-rendering: pixelated;
  background: #000;
}
figcaption {
  font-size: var(--small);
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
  font-size: var(--small);
}
li {
  display: flex;
  gap: 6px;
  align-items: center;
}
li i {
  width: 10px;
  height: 10px;
  border-radius: 2px;
}
li .num {
  margin-left: auto;
}
.control {
  display: grid;
  grid-template-columns: 1fr 130px;
  gap: 8px;
  align-items: center;
  font-size: var(--small);
}
.unit {
  margin-left: 6px;
}
.facts {
  white-space: normal;
}
.control.set > span:first-child {
  color: var(--text);
  font-weight: 600;
}
.bar label {
  display: flex;
  gap: 6px;
  align-items: center;
}
</style>
