<script setup lang="ts">
/** How the picture is: what is wrong with it and where, the file's own words, and figures of every channel. */
import { computed, ref } from 'vue';
import type { LayerRole } from '../../../core/formats/layers.ts';
import type { HealthFinding } from '../../../core/picture/health/check.ts';
import { HISTOGRAM_STOPS } from '../../../core/picture/health/health.ts';
import { SPACES, type SpaceId } from '../../../core/picture/spaces.ts';
import { radiance } from '../../format.ts';
import { useLook } from '../../stores/look.ts';
import { vStored } from '../../stored-value.ts';

const look = useLook();
const facts = computed(() => look.shown?.picture?.facts ?? null);
const set = computed(() => look.shown?.set ?? null);
const isHere = (finding: HealthFinding) =>
  look.mask !== null && 'finding' in look.mask && look.mask.finding === finding;
const toggle = (finding: HealthFinding) => (look.mask = isHere(finding) ? null : { finding });
const hasPlace = (finding: HealthFinding) => finding.channels.length > 0 && finding.severity !== 'note';

const channels = computed(() => {
  const wanted = new Set(look.shownLayer?.channels);
  return facts.value?.health.channels.filter(({ name }) => wanted.has(name)) ?? [];
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
const numberOf = (event: Event) => Number((event.target as HTMLInputElement).value);

const showsAttributes = ref(false);
const attributes = computed(() => facts.value?.parts.flatMap((part) => Object.entries(part.attributes).map(([key, value]) => ({ key: facts.value!.parts.length > 1 ? `${part.name}: ${key}` : key, value: String(value) }))) ?? []); // prettier-ignore
const mattes = computed(() => look.information?.mattes ?? []);
const matte = ref('');
function showMatte(): void {
  const [at, ...name] = matte.value.split('/');
  look.mask = matte.value ? { matte: mattes.value[Number(at)].name, of: name.join('/') } : null;
}
</script>

<template>
  <section class="health" aria-label="Health">
    <template v-if="facts && set">
      <ul class="findings">
        <li v-for="(finding, i) in facts.health.findings" :key="i">
          <span class="severity" :class="finding.severity">{{ finding.severity }}</span>
          <span>{{ finding.sentence }}</span>
          <button
            v-if="hasPlace(finding)"
            class="flat"
            :class="{ on: isHere(finding) }"
            :aria-pressed="isHere(finding)"
            @click="toggle(finding)"
          >
            Show where
          </button>
        </li>
        <li v-if="!facts.health.findings.length" class="soft">
          Nothing is wrong with it that can be read off the picture.
        </li>
      </ul>
      <h3>{{ look.layerTitle(look.shownLayer?.name ?? '') }}</h3>
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
            channel.nan && `${channel.nan} no number`,
            channel.infinite && `${channel.infinite} infinite`,
            channel.negative && `${channel.negative} below 0`,
          ]
            .filter(Boolean)
            .join(', ')
        }}</span>
      </div>
      <p class="dim small">Histograms by whole stops, from 2^{{ firstStop }} to 2^{{ lastStop }}.</p>
      <h3>What it is</h3>
      <div class="form">
        <label for="role">This layer is</label>
        <select id="role" :value="look.shownLayer?.role" @change="setRole(($event.target as HTMLSelectElement).value)">
          <option v-for="role in ROLES" :key="role" :value="role">{{ role }}</option>
        </select>
        <label for="space">Values are in</label>
        <select
          id="space"
          :value="set.reading.space ?? ''"
          @change="change({ space: (($event.target as HTMLSelectElement).value || null) as SpaceId | null })"
        >
          <option value="">not said: as set below the picture</option>
          <option v-for="(one, id) in SPACES" :key="id" :value="id">{{ one.name }}</option>
        </select>
        <label for="baked">Baked exposure</label>
        <span
          ><input
            id="baked"
            v-stored="set.reading.bakedExposure"
            type="number"
            step="0.5"
            min="-30"
            max="30"
            @change="change({ bakedExposure: numberOf($event) || 0 })"
          />
          stops</span
        >
        <label for="samples">Samples a pixel</label>
        <input
          id="samples"
          v-stored="set.reading.samples ?? ''"
          type="number"
          min="1"
          placeholder="not known"
          @change="change({ samples: numberOf($event) >= 1 ? Math.round(numberOf($event)) : null })"
        />
        <template v-if="mattes.length">
          <label for="matte">Matte</label>
          <select id="matte" v-model="matte" @change="showMatte">
            <option value="">none</option>
            <optgroup v-for="(one, i) in mattes" :key="one.name" :label="one.name">
              <option v-for="name in one.names" :key="name" :value="`${i}/${name}`">{{ name }}</option>
            </optgroup>
          </select>
        </template>
      </div>
      <p class="dim small">
        {{ facts.format
        }}{{ facts.isForDisplay ? ', made for a display: whole numbers, taken back to linear light' : ''
        }}<template v-for="part in facts.parts" :key="part.name"
          >, {{ part.name }} {{ part.compression }} {{ part.channels.length }} channels</template
        >
      </p>
      <button
        v-if="attributes.length"
        class="bare dim pad"
        :aria-expanded="showsAttributes"
        @click="showsAttributes = !showsAttributes"
      >
        {{ attributes.length }} attributes
      </button>
      <dl v-if="showsAttributes">
        <template v-for="one in attributes" :key="one.key"
          ><dt>{{ one.key }}</dt>
          <dd>{{ one.value.slice(0, 300) }}</dd></template
        >
      </dl>
    </template>
    <p v-else class="dim pad">
      Pictures that are brought in are examined here. What is wrong with renders of ours stands among the shot's
      findings.
    </p>
  </section>
</template>

<style scoped>
.health {
  font-size: 12px;
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
h3 {
  font-size: 12px;
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
  font-size: 11px;
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
.form select,
.form input {
  font: inherit;
  color: var(--text);
  background: var(--up);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 2px 4px;
  min-width: 0;
}
.form input {
  width: 90px;
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
