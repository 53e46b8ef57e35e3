<script setup lang="ts">
/** What two pictures have of each other: how far apart they are, which is cleaner and by how much, what was set otherwise. */
import Select from 'primevue/select';
import Button from 'primevue/button';
import { computed, ref, watch } from 'vue';
import { changedControls } from '../../../core/document/changed-controls.ts';
import { DIFFERENCES } from '../../../core/picture/difference.ts';
import { equalNoise, tellEqualNoise } from '../../../core/picture/equal-noise.ts';
import type { PictureNoise } from '../../../core/picture/noise.ts';
import type { ShotDocument } from '../../../core/document/schema.ts';
import { count, duration, radiance, stops, times } from '../../format.ts';
import type { Compared } from '../../picture/desk-messages.ts';
import { desk } from '../../picture/desk.ts';
import { getJson } from '../../remote/client.ts';
import { useLook, type LookSource } from '../../stores/look.ts';
import NoiseTable from './NoiseTable.vue';
import PassNoise from './PassNoise.vue';

const look = useLook();
const alone = ref<PictureNoise | null>(null);
const compared = ref<{ source: LookSource; result: Compared | null; failure: string }[]>([]);

/** Once both are whole: figures of halves would mislead. */
const key = computed(() => {
  const all = [look.shown, ...look.against].filter((one) => one !== null);
  const whole = all.every((one) => look.opened.get(one.key)?.done === 1);
  return whole && look.shownLayer ? JSON.stringify([all.map(({ stamp }) => stamp), look.shownLayer.name, look.region]) : ''; // prettier-ignore
});
watch(
  key,
  async (now) => {
    const { shown, shownLayer, region } = look;
    if (!now || !shown || !shownLayer) return;
    alone.value = await desk.ask('noise', { key: shown.key, layer: shownLayer.name, region }).catch(() => null);
    const found: typeof compared.value = [];
    for (const source of look.against) {
      const entry = { source, result: null as Compared | null, failure: '' };
      try {
        entry.result = await desk.ask('compare', { a: shown.key, b: source.key, layer: shownLayer.name, region });
      } catch (error) {
        entry.failure = (error as Error).message;
      }
      found.push(entry);
      if (key.value !== now) return;
    }
    compared.value = found;
  },
  { immediate: true },
);

const samplesOf = (source: LookSource) => source.render?.samplesDone ?? source.set?.reading.samples ?? null;
const secondsOf = ({ render }: LookSource) => (render ? duration(render.threadSeconds) : null);

/** Documents of versions that are compared, read once. */
const documents = ref<Record<number, ShotDocument>>({});
watch(
  () => [look.shown, ...look.against].flatMap((one) => one?.render?.id ?? []),
  async (ids) => {
    for (const id of ids)
      if (!documents.value[id]) {
        const document = await getJson<ShotDocument>(`/renders/${id}/document`).catch(() => null);
        if (document) documents.value = { ...documents.value, [id]: document };
      }
  },
  { immediate: true },
);
function changes(other: LookSource): string[] {
  const [a, b] = [look.shown?.render, other.render];
  if (a && b) {
    const [p, q] = [documents.value[a.id], documents.value[b.id]];
    return p && q ? changedControls(p, a.sheet, q, b.sheet) : [];
  }
  const [p, q] = [look.shown?.picture?.facts.parts[0].attributes, other.picture?.facts.parts[0].attributes];
  if (!p || !q) return [];
  return [...new Set([...Object.keys(p), ...Object.keys(q)])]
    .filter((name) => String(p[name] ?? '') !== String(q[name] ?? '') && !/manifest/.test(name))
    .slice(0, 30)
    .map((name) => `${name}: ${String(p[name] ?? 'none').slice(0, 60)} → ${String(q[name] ?? 'none').slice(0, 60)}`);
}
const KINDS = Object.entries(DIFFERENCES).map(([id, { name }]) => ({ id, name }));
</script>

<template>
  <section class="compare" aria-label="Compare">
    <div v-if="look.mode === 'difference'" class="modes">
      <Select
        v-model="look.difference.kind"
        :options="KINDS"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Kind of difference"
        :title="DIFFERENCES[look.difference.kind].told"
      />
      <span class="dim">times</span>
      <Select
        v-model="look.difference.times"
        :options="[1, 2, 4, 8, 16, 32, 64]"
        size="small"
        aria-label="Amplified by"
      />
      <span class="dim">{{
        look.difference.kind === 'absolute' ? DIFFERENCES.absolute.told : 'amber: more than A, blue: less'
      }}</span>
    </div>
    <p v-if="look.region" class="dim pad">
      Over the region, {{ look.region.width }} × {{ look.region.height }} pixels.
      <Button severity="secondary" variant="text" @click="look.region = null">Whole frame</Button>
    </p>
    <NoiseTable v-if="alone && !look.against.length && look.shown" :noises="[{ name: 'this', noise: alone }]" />
    <p v-if="!look.against.length" class="soft pad">Compare it with another picture: in the list below, or with C.</p>
    <article v-for="{ source, result, failure } in compared" :key="source.key">
      <h2><span class="dim">A</span> {{ look.shown?.label }} <span class="dim">B</span> {{ source.label }}</h2>
      <p v-if="failure" class="bad pad" role="alert">{{ failure }}</p>
      <template v-else-if="result">
        <dl class="num">
          <dt>RMSE, linear, A as reference</dt>
          <dd>{{ radiance(result.difference.rmse) }}</dd>
          <dt>PSNR, display</dt>
          <dd>{{ Number.isFinite(result.difference.psnr) ? `${result.difference.psnr.toFixed(1)} dB` : 'equal' }}</dd>
          <dt>SSIM</dt>
          <dd>{{ Number.isNaN(result.difference.ssim) ? 'too small' : result.difference.ssim.toFixed(4) }}</dd>
          <dt>Brightness</dt>
          <dd>
            {{ Number.isFinite(result.difference.stops) ? `${stops(result.difference.stops)} stops` : 'one is black' }}
          </dd>
          <dt>Greatest difference</dt>
          <dd>
            {{ radiance(result.difference.most.difference) }} at {{ result.difference.most.x }},
            {{ result.difference.most.y }}
          </dd>
          <template v-if="look.shown && secondsOf(look.shown) && secondsOf(source)">
            <dt>Thread time</dt>
            <dd>
              {{ secondsOf(look.shown) }} → {{ secondsOf(source) }},
              {{ times(source.render!.threadSeconds / look.shown.render!.threadSeconds) }}
            </dd>
            <dt>Rays</dt>
            <dd>
              {{ count(look.shown.render!.rays) }} → {{ count(source.render!.rays) }},
              {{ times(source.render!.rays / look.shown.render!.rays) }}
            </dd>
          </template>
        </dl>
        <p v-if="result.resized !== 1" class="care pad">
          B was resized by {{ result.resized.toFixed(3) }} to lie over A.
        </p>
        <p v-if="result.difference.isAligned" class="care pad">
          Their windows differ: figures are of the {{ result.difference.width }} × {{ result.difference.height }} pixels
          that both have.
        </p>
        <p v-if="result.difference.notFinite" class="care pad">
          {{ result.difference.notFinite }} NaN pixels are left out.
        </p>
        <NoiseTable
          :noises="[
            { name: 'A', noise: result.noise[0] },
            { name: 'B', noise: result.noise[1] },
          ]"
        />
        <p
          v-for="one in equalNoise(result.noise[0], result.noise[1], samplesOf(source))"
          :key="one.zone"
          class="pad equal"
        >
          {{ tellEqualNoise(one, 'A', 'B') }}
        </p>
        <PassNoise :a="look.shown!" :b="source" />
        <h3>Settings that differ</h3>
        <ul class="changes">
          <li v-for="change in changes(source)" :key="change">{{ change }}</li>
          <li v-if="!changes(source).length" class="dim">
            {{
              look.shown?.render && source.render
                ? 'Nothing: the same settings.'
                : 'No differences recorded in the files.'
            }}
          </li>
        </ul>
      </template>
    </article>
  </section>
</template>

<style scoped>
.compare {
  font-size: var(--small);
  padding-bottom: 12px;
}
.modes {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  padding: 8px 12px 4px;
  align-items: center;
}
.pad {
  padding: 2px 12px;
}
h2,
h3 {
  font-size: var(--small);
  padding: 8px 12px 2px;
  margin: 0;
}
article {
  border-top: 1px solid var(--line);
  margin-top: 6px;
}
dl {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 1px 12px;
  padding: 2px 12px 6px;
  margin: 0;
}
dt {
  color: var(--dim);
}
dd {
  margin: 0;
}
.care {
  color: var(--care);
}
.bad {
  color: var(--stop);
}
.equal {
  color: var(--text);
}
.changes li {
  padding: 1px 12px;
  overflow-wrap: anywhere;
}
</style>
