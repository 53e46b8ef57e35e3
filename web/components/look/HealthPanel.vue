<script setup lang="ts">
/** How the picture is: what is wrong with it and where, the file's own words, and figures of every channel. */
import InputNumber from 'primevue/inputnumber';
import Select from 'primevue/select';
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import type { LayerRole } from '../../../core/formats/layers.ts';
import type { HealthFinding } from '../../../core/picture/health/check.ts';
import { HISTOGRAM_STOPS } from '../../../core/picture/health/health.ts';
import { SPACES } from '../../../core/picture/spaces.ts';
import { radiance } from '../../format.ts';
import { useLook } from '../../stores/look.ts';
import SeverityTag from '../shared/SeverityTag.vue';

const look = useLook();
const facts = computed(() => look.shown?.picture?.facts ?? null);
const set = computed(() => look.shown?.set ?? null);
const isHere = (finding: HealthFinding) =>
  look.mask !== null && 'finding' in look.mask && look.mask.finding === finding;
const toggle = (finding: HealthFinding) => (look.mask = isHere(finding) ? null : { finding });
const hasPlace = (finding: HealthFinding) => finding.channels.length > 0 && finding.severity !== 'note';

const channels = computed(() => {
  const wanted = new Set(look.shownLayer?.channels);
  const own = facts.value?.health.channels.filter(({ name }) => wanted.has(name)) ?? [];
  const place = (name: string) => 'RGBAXYZ'.indexOf(name.split('.').at(-1)!);
  return own.sort((a, b) => place(a.name) - place(b.name));
});
const bars = (histogram: number[]) => {
  const most = Math.max(1, ...histogram);
  return histogram.map((count) => Math.round((count / most) * 100));
};
const [firstStop, lastStop] = HISTOGRAM_STOPS;

const ROLES: LayerRole[] = ['beauty', 'light', 'light group', 'data', 'matte', 'noise', 'other'];
function setRole(role: string): void {
  const { reading, id } = set.value!;
  void look.readSet(id, { ...reading, roles: { ...reading.roles, [look.shownLayer!.name]: role as LayerRole } });
}
const change = (values: object) => void look.readSet(set.value!.id, { ...set.value!.reading, ...values });
const COLOUR_SPACES = [...Object.entries(SPACES).map(([id, { name }]) => ({ id, name }))];

const showsAttributes = ref(false);
const attributes = computed(() => facts.value?.parts.flatMap((part) => Object.entries(part.attributes).map(([key, value]) => ({ key: facts.value!.parts.length > 1 ? `${part.name}: ${key}` : key, value: String(value) }))) ?? []); // prettier-ignore
const mattes = computed(() => look.information?.mattes ?? []);
const matteChoices = computed(() =>
  mattes.value.map(({ name, names }, i) => ({ name, items: names.map((one) => ({ id: `${i}/${one}`, name: one })) })),
);
const matte = ref<string | null>(null);
function showMatte(): void {
  const [at, ...name] = (matte.value ?? '').split('/');
  look.mask = matte.value ? { matte: mattes.value[Number(at)].name, of: name.join('/') } : null;
}
</script>

<template>
  <section class="health" aria-label="Health">
    <template v-if="facts && set">
      <ul class="findings">
        <li v-for="(finding, i) in facts.health.findings" :key="i">
          <SeverityTag :severity="finding.severity" />
          <span>{{ finding.sentence }}</span>
          <Button
            v-if="hasPlace(finding)"
            severity="secondary"
            variant="text"
            :aria-pressed="isHere(finding)"
            @click="toggle(finding)"
          >
            Show where
          </Button>
        </li>
        <li v-if="!facts.health.findings.length" class="soft">No problems found in the picture.</li>
      </ul>
      <h2>{{ look.layerTitle(look.shownLayer?.name ?? '') }}</h2>
      <div v-for="channel in channels" :key="channel.name" class="channel">
        <span class="num name">{{ channel.name }}</span>
        <svg
          viewBox="0 0 92 20"
          preserveAspectRatio="none"
          role="img"
          :aria-label="`Histogram of ${channel.name} from 2^${firstStop} to 2^${lastStop}`"
        >
          <rect
            v-for="(height, b) in bars(channel.histogram)"
            :key="b"
            :x="b * 4"
            :y="20 - height / 5"
            width="3"
            :height="height / 5"
          />
        </svg>
        <span class="num dim"
          >{{ radiance(channel.min) }} … {{ radiance(channel.max) }}, mean {{ radiance(channel.mean) }}</span
        >
        <span v-if="channel.nan + channel.infinite + channel.negative" class="num bad">{{
          [
            channel.nan && `${channel.nan} NaN`,
            channel.infinite && `${channel.infinite} infinite`,
            channel.negative && `${channel.negative} below 0`,
          ]
            .filter(Boolean)
            .join(', ')
        }}</span>
      </div>
      <p class="dim small">Histograms by whole stops, from 2^{{ firstStop }} to 2^{{ lastStop }}.</p>
      <h2>What it is</h2>
      <div class="form">
        <label for="role">This layer is</label>
        <Select
          :model-value="look.shownLayer?.role"
          :options="ROLES"
          size="small"
          label-id="role"
          aria-label="This layer is"
          @update:model-value="setRole($event)"
        />
        <label for="space">Colour space</label>
        <Select
          :model-value="set.reading.space"
          :options="COLOUR_SPACES"
          option-label="name"
          option-value="id"
          size="small"
          label-id="space"
          aria-label="Colour space"
          show-clear
          placeholder="not in the file: as set below the picture"
          @update:model-value="change({ space: $event || null })"
        />
        <label for="baked">Baked exposure</label>
        <InputNumber
          :model-value="set.reading.bakedExposure"
          input-id="baked"
          size="small"
          :min="-30"
          :max="30"
          :step="0.5"
          :max-fraction-digits="3"
          suffix=" stops"
          @update:model-value="$event !== set.reading.bakedExposure && change({ bakedExposure: $event ?? 0 })"
        />
        <label for="samples">Samples per pixel</label>
        <InputNumber
          :model-value="set.reading.samples"
          input-id="samples"
          size="small"
          :min="1"
          placeholder="not known"
          @update:model-value="$event !== set.reading.samples && change({ samples: $event })"
        />
        <template v-if="mattes.length">
          <label for="matte">Matte</label>
          <Select
            v-model="matte"
            :options="matteChoices"
            option-label="name"
            option-value="id"
            option-group-label="name"
            option-group-children="items"
            size="small"
            show-clear
            filter
            placeholder="none"
            label-id="matte"
            aria-label="Matte"
            @update:model-value="showMatte"
          />
        </template>
      </div>
      <p class="dim small">
        {{ facts.format
        }}{{ facts.isForDisplay ? ', made for a display: whole numbers, taken back to linear light' : ''
        }}<template v-for="part in facts.parts" :key="part.name"
          >, {{ part.name }} {{ part.compression }} {{ part.channels.length }} channels</template
        >
      </p>
      <Button
        v-if="attributes.length"
        unstyled
        class="bare dim pad"
        :aria-expanded="showsAttributes"
        @click="showsAttributes = !showsAttributes"
      >
        {{ attributes.length }} attributes
      </Button>
      <dl v-if="showsAttributes">
        <template v-for="one in attributes" :key="one.key"
          ><dt>{{ one.key }}</dt>
          <dd>{{ one.value.slice(0, 300) }}</dd></template
        >
      </dl>
    </template>
    <p v-else class="dim pad">
      Imported pictures are examined here. Our own renders are examined under Causes, in the shot's findings.
    </p>
  </section>
</template>

<style scoped>
.health {
  font-size: var(--small);
  padding-bottom: 12px;
}
.findings li {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  gap: 8px;
  padding: 6px 12px;
  border-bottom: 1px solid var(--line);
  align-items: start;
}
h2 {
  font-size: var(--small);
  padding: 10px 12px 4px;
}
.channel {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 92px;
  gap: 0 10px;
  padding: 3px 12px;
  align-items: center;
}
.channel svg {
  grid-row: span 2;
  grid-column: 2;
  grid-row-start: 1;
  width: 92px;
  height: 22px;
  background: var(--out);
}
.channel rect {
  fill: #b5b5b5;
}
.bad {
  color: var(--stop);
}
.small {
  font-size: var(--small);
  padding: 4px 12px;
}
.pad {
  padding: 8px 12px;
}
.form {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 5px 10px;
  padding: 2px 12px;
  align-items: center;
}
.form label {
  color: var(--dim);
}
dl {
  display: grid;
  grid-template-columns: minmax(80px, auto) minmax(0, 1fr);
  gap: 2px 10px;
  padding: 0 12px;
  margin: 0;
  overflow-wrap: anywhere;
}
dt {
  color: var(--dim);
}
dd {
  margin: 0;
}
</style>
