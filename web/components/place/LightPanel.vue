<script setup lang="ts">
/** What lights a place of the picture, or a region: light by light what arrives, what stands between, and what keeps a shadow away. */
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import ProgressBar from 'primevue/progressbar';
import SelectButton from 'primevue/selectbutton';
import { computed, ref } from 'vue';
import type { LightState, ToldLight, ToldRemedy } from '../../../core/contracts/place.ts';
import { capital } from '../../../core/diagnose/words.ts';
import { metres } from '../../../core/intake/preflight/tell.ts';
import type { LightSpec } from '../../../core/document/schema.ts';
import type { ControlValues } from '../../../core/document/set-values.ts';
import { angleFor, widened } from '../../../core/place/penumbra.ts';
import { isOfDocument } from '../../../core/document/pointers.ts';
import { percent } from '../../format.ts';
import { useCurrent } from '../../stores/current.ts';
import { useMessages } from '../../stores/messages.ts';
import { usePending } from '../../stores/pending.ts';
import { usePlace } from '../../stores/place.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import { regionAround } from '../../viewer/region.ts';
import EnvironmentTurns from './EnvironmentTurns.vue';
import OcclusionDistances from './OcclusionDistances.vue';
import PreviewShadows from './PreviewShadows.vue';
import RegionLights from './RegionLights.vue';

const place = usePlace();
const view = useView();
const shot = useShot();
const current = useCurrent();
const pending = usePending();
const busy = ref(false);

/** Lights that bring next to nothing are told on request. */
const isWhole = ref(false);
const isLittle = ({ state, share, unshadowed }: ToldLight, most: number) =>
  state !== 'missing' && share < 0.01 && unshadowed < 0.01 * most;
const most = computed(() => Math.max(0, ...(place.told?.lights.map(({ unshadowed }) => unshadowed) ?? [])));
const lights = computed(
  () => place.told?.lights.filter((light) => isWhole.value || !isLittle(light, most.value)) ?? [],
);
const little = computed(() => (place.told?.lights.length ?? 0) - lights.value.length);

const region = computed(() => place.asked?.region ?? null);

/** Of what the answer is, where that is not what the picture shows. */
const told = computed(() => {
  const { render, sheetName } = current;
  const { number: version } = shot.state!.head;
  const values = Object.keys(pending.scene).length + Object.keys(pending.sheets[sheetName]).length;
  const set = values === 0 ? '' : ` with ${values} ${values === 1 ? 'value' : 'values'} set`;
  return render && render.version === version && !set ? '' : `Of version ${version}${set}; the picture is of version ${render?.version ?? '–'}.`; // prettier-ignore
});

const STATES: Record<LightState, string> = { lit: 'lights it', edge: 'in part', shaded: 'in shadow', missing: 'shadow missing', unlit: 'does not light it' }; // prettier-ignore
const short = (value: number) => String(+value.toPrecision(3));
const long = (value: number) => metres(+value.toPrecision(3));
function factsOf({ metres: away, elevation, angle, contrast, penumbra, unshadowed, arriving }: ToldLight): string {
  return [
    `${short(arriving)} of ${short(unshadowed)} W/m²`,
    ...(away === null ? [] : [`${long(away)} away`]),
    ...(elevation === null ? [] : [`${elevation.toFixed(0)}° above the surface`]),
    ...(angle === null ? [] : [`${+angle.toPrecision(2)}° wide`]),
    ...(contrast === null ? [] : [`shadow ${contrast.toFixed(2)} stops`]),
    ...(penumbra && penumbra.metres > 0
      ? [`edge ${long(penumbra.metres)}, ${+penumbra.pixels.toPrecision(2)} px`]
      : []),
  ].join(' · ');
}
const signed = (stops: number | null) => stops === null ? 'a trial tells by how much' : `${stops < 0 ? '−' : '+'}${Math.abs(stops).toFixed(2)} stops here`; // prettier-ignore

/** Sets the light's size so that the edge of its shadow here is as wide as wished; in millimetres. */
function soften(light: ToldLight, millimetres: number | null): void {
  const { told: answer } = place;
  const spec = light.pointer?.startsWith('/lights/') ? shownLight(light.id) : null;
  const [blocker] = light.blockers;
  if (millimetres === null || !answer || !spec || !blocker || !light.direction) return;
  const cosine = light.direction.reduce((sum, d, a) => sum + d * answer.normal[a], 0);
  const angle = angleFor(millimetres / 1000, { blocker: blocker.metres, light: light.metres, cosine });
  const values = widened(light.pointer!, spec, light.angle ?? 0, angle, light.metres);
  if (values) put(values);
  else useMessages().failed(`${light.name} has no size that gives such an edge.`);
}
/** A light as it stands with what is set. */
function shownLight(id: string): LightSpec {
  const own = Object.entries(pending.scene).flatMap(([pointer, value]) => {
    const [, part, key, field, ...rest] = pointer.split('/');
    return part === 'lights' && key === id && field && rest.length === 0 ? [[field, value]] : [];
  });
  return { ...shot.state!.document.lights[id], ...(Object.fromEntries(own) as object) } as LightSpec;
}
const isSoftened = ({ pointer, penumbra, state }: ToldLight) =>
  pointer?.startsWith('/lights/') && penumbra !== null && state !== 'unlit';

/** An edge of some pixels that needs more shadow rays than there are; at a harder one samples of pixels are enough. */
const SOFT = 2;
const unclean = ({ edgeRays, penumbra, state }: ToldLight) =>
  edgeRays !== null && penumbra !== null && penumbra.pixels >= SOFT && state !== 'unlit' && edgeRays.needed > edgeRays.now; // prettier-ignore

/** Values stand as set and not kept: the answer and the live look follow. */
const set = ({ values }: ToldRemedy): void => put(values);
function put(values: ControlValues): void {
  for (const [pointer, value] of Object.entries(values)) {
    if (isOfDocument(pointer)) pending.put(shot.state!.document, pointer, value);
    else pending.sheets[current.sheetName][pointer] = value as null;
  }
}
async function tryOut({ title, values }: ToldRemedy): Promise<void> {
  const { render } = current;
  const at = place.mark;
  if (!at || !render) return;
  busy.value = true;
  const [x, y] = at;
  const region = regionAround({ x, y }, render);
  const trial = await shot.tryOut({ finding: null, remedy: null, region, sheet: current.sheetName, values, title: title.slice(0, 200) }); // prettier-ignore
  busy.value = false;
  if (trial) view.trialId = trial.id;
}
</script>

<template>
  <section class="light-panel" aria-label="Light here">
    <SelectButton
      v-if="view.region && (view.place || view.asksRegion)"
      v-model="view.asksRegion"
      :options="[
        { label: 'Place', value: false },
        { label: 'Region', value: true },
      ]"
      option-label="label"
      option-value="value"
      :allow-empty="false"
      size="small"
      aria-label="Ask about"
    />
    <div v-if="!view.place && !view.asksRegion" class="empty">
      <h2>What lights a place, and why is there no shadow?</h2>
      <p class="soft">
        Right-click a surface in the picture and choose “What lights this?”, or point at it and press <b>Shift L</b>.
        Each light reports what arrives, what is in between, and which setting suppresses a shadow.
      </p>
      <Button v-if="view.region" size="small" @click="view.askRegion()">Ask about the region</Button>
    </div>
    <p v-else-if="view.asksRegion && !view.region" class="soft" role="status">
      Draw a region in the picture to ask about it.
    </p>
    <p v-else-if="place.problem" class="bad" role="alert">{{ place.problem }}</p>
    <p v-else-if="place.asked && !place.told" class="soft" role="status">
      {{ view.asksRegion ? 'The region' : `Pixel ${view.place?.join(', ')}` }} shows no surface: there is nothing that
      light could fall on.
    </p>
    <template v-else-if="place.told">
      <template v-if="region">
        <h2>Region of {{ region.places }} places</h2>
        <p class="sentence" role="status">{{ region.sentence }}</p>
        <RegionLights :told="region" />
        <p class="dim">Most telling point:</p>
      </template>
      <header>
        <h2>{{ place.told.object.name }}</h2>
        <span class="dim num">
          {{ place.mark?.join(', ') }} · {{ long(place.told.metres) }} away · a pixel is
          {{ long(place.told.pixelSize) }}
        </span>
        <span v-if="place.told.through.length" class="dim">seen through {{ place.told.through.join(', ') }}</span>
      </header>
      <p v-if="told" class="dim">{{ told }}</p>
      <p v-if="!region" class="sentence" role="status">{{ place.told.sentence }}</p>
      <ul>
        <li
          v-for="light in lights"
          :key="light.id"
          :class="[light.state, { shown: place.shown?.id === light.id }]"
          @pointerenter="place.light = light.id"
        >
          <p class="title">
            <Button
              v-if="light.pointer"
              variant="link"
              class="name"
              :title="`Controls of ${light.name}`"
              @focus="place.light = light.id"
              @click="view.showDial(light.pointer)"
              >{{ capital(light.name) }}</Button
            >
            <b v-else>{{ capital(light.name) }}</b>
            <span class="tag">{{ STATES[light.state] }}</span>
            <span class="num soft">{{ percent(light.share) }}</span>
          </p>
          <ProgressBar
            :value="Math.round(100 * light.share)"
            :show-value="false"
            :aria-label="`Share of the light here that comes from ${light.name}`"
          />
          <p v-if="light.verdict !== place.told.sentence">{{ light.verdict }}</p>
          <p class="dim num">{{ factsOf(light) }}</p>
          <label v-if="isSoftened(light)" class="softness soft"
            >Edge of its shadow here
            <InputNumber
              :model-value="+(1000 * light.penumbra!.metres).toPrecision(3)"
              :min="0"
              :max="1e6"
              :max-fraction-digits="2"
              suffix=" mm"
              size="small"
              :aria-label="`Edge of the shadow of ${light.name} here, millimetres`"
              title="Sets the size of the light for an edge as wide as this, as bright as it is"
              @update:model-value="soften(light, $event)"
          /></label>
          <p v-if="unclean(light)" class="remedy soft">
            <span
              >Noise of that edge: clean at <span class="num">{{ light.edgeRays!.needed }}</span> shadow rays per pixel,
              <span class="num">{{ light.edgeRays!.now }}</span> now</span
            >
            <Button
              v-if="light.edgeRays!.samples"
              size="small"
              severity="secondary"
              title="Set samples of the light, without keeping them yet"
              @click="put({ [`${light.pointer}/samples`]: light.edgeRays!.samples })"
              >Set {{ light.edgeRays!.samples }} {{ light.edgeRays!.samples === 1 ? 'sample' : 'samples' }}</Button
            >
          </p>
          <ol v-if="light.blockers.length">
            <li v-for="one in light.blockers.slice(0, 4)" :key="one.id" class="soft">
              <span class="num">{{ long(one.metres) }}</span>
              <Button variant="link" class="name" @click="view.showDial(`/objects/${one.id}`)">{{ one.name }}</Button>
              <span class="dim">{{ one.blocks ? `holds back ${percent(one.share)}` : 'lets it pass' }}</span>
            </li>
          </ol>
          <p v-for="remedy in light.remedies" :key="remedy.title" class="remedy">
            <span
              >{{ remedy.title }} <span class="dim num">{{ signed(remedy.stops) }}</span></span
            >
            <Button size="small" severity="secondary" title="Set it, without keeping it yet" @click="set(remedy)"
              >Set</Button
            >
            <Button size="small" :loading="busy" @click="tryOut(remedy)">Try here</Button>
          </p>
        </li>
      </ul>
      <Button v-if="little || isWhole" variant="link" size="small" @click="isWhole = !isWhole">{{
        isWhole ? 'Only lights that matter here' : `${little} more that bring next to nothing`
      }}</Button>
      <p class="dim num">
        {{ short(place.told.direct) }} W/m² of direct light<template v-if="place.told.indirect"
          >, {{ short(place.told.indirect) }} that bounces</template
        ><template v-if="place.told.leftOut.lights"
          >; {{ place.told.leftOut.lights }} more lights left out, {{ percent(place.told.leftOut.share) }} of
          it</template
        >. Traced in {{ place.asked!.took.toFixed(0) }} ms.
      </p>
      <EnvironmentTurns
        v-if="place.asked?.environment"
        :told="place.asked.environment"
        @turn="put({ '/environment/rotation': +$event.toFixed(2) })"
      />
    </template>
    <p v-if="place.isAsking && !place.told" class="soft" role="status">Reading the scene …</p>
    <PreviewShadows />
    <OcclusionDistances />
  </section>
</template>

<style scoped>
.light-panel {
  height: 100%;
  overflow: auto;
  padding: 10px 12px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  align-content: start;
  grid-auto-rows: max-content;
}
.empty {
  display: grid;
  gap: 6px;
  padding: 12px 0;
}
header {
  display: grid;
  gap: 2px;
}
header .dim,
.num {
  font-size: var(--small);
  white-space: normal;
}
ul > li {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
  padding: 8px 0 8px 10px;
  border-top: 1px solid var(--line);
  border-left: 2px solid transparent;
}
ul > li.shown {
  border-left-color: var(--act);
}
ul > li.missing.shown {
  border-left-color: var(--stop);
}
.title {
  display: flex;
  gap: 8px;
  align-items: center;
}
.title .soft {
  margin-left: auto;
}
.missing .tag {
  color: var(--stop);
  border-color: var(--stop);
}
.name {
  padding: 0;
  font-weight: 600;
}
ol .name {
  font-weight: 400;
}
ol li {
  display: flex;
  gap: 8px;
  align-items: baseline;
  font-size: var(--small);
}
ol .num {
  min-width: 4.5em;
  text-align: right;
}
.softness {
  display: flex;
  gap: 8px;
  align-items: center;
  font-size: var(--small);
}
.softness :deep(input) {
  width: 92px;
  text-align: right;
}
.remedy {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 6px;
  align-items: center;
}
.light-panel :deep(.p-progressbar) {
  height: 3px;
}
.bad {
  color: var(--stop);
}
</style>
