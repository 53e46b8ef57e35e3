<script setup lang="ts">
/** What is wrong with a picture by itself, whoever rendered it: noise with its plan, fireflies, whether it would denoise. */
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import type { Intake } from '../../../core/contracts/intake.ts';
import type { Finding } from '../../../core/contracts/finding.ts';
import type { RenderedWith } from '../../../core/diagnose/noise/plan-in-numbers.ts';
import { parseTarget, type Target } from '../../../core/intake/fit/target.ts';
import { parseProfile } from '../../../core/intake/preflight/profile.ts';
import { settingsOfAttributes } from '../../../core/picture/settings-record.ts';
import { desk } from '../../picture/desk.ts';
import { getJson } from '../../remote/client.ts';
import { useLook } from '../../stores/look.ts';
import { useProfiles } from '../../stores/profiles.ts';
import { useShot } from '../../stores/shot.ts';
import { tellEffect } from '../../effect-words.ts';
import EvidenceList from '../findings/evidence/EvidenceList.vue';
import SeverityTag from '../shared/SeverityTag.vue';

const look = useLook();
const shot = useShot();
const profiles = useProfiles();

/** What the show says its pictures are rendered with, and the renderer that the shot is for. */
const chosen = shallowRef<Pick<Intake, 'show' | 'target'>>({ show: null, target: null });
onMounted(async () => {
  try {
    chosen.value = await getJson(`/shots/${shot.state!.code}/intake`);
  } catch {
    // Plans speak in factors until it is known.
  }
});
const textOf = (kind: 'show' | 'target') =>
  profiles.of(kind).find((one) => one.name === chosen.value[kind])?.text ?? null;
const show = computed<Record<string, number>>(() => {
  const text = textOf('show');
  return text === null ? {} : parseProfile(text, chosen.value.show!).sampling;
});
const target = computed<Target | null>(() => {
  const text = textOf('target');
  return text === null ? null : parseTarget(text, chosen.value.target!);
});

/** What a person said of this set before what the file says, and that before the show. */
const renderedWith = computed<RenderedWith>(() => {
  const samples = look.shown?.set?.reading.samples ?? null;
  const parts = look.shown?.picture?.facts.parts ?? [];
  const said: [string, number][] = [
    ...(samples === null ? [] : [['samples', samples] as [string, number]]),
    ...parts.flatMap(({ attributes }) => [...settingsOfAttributes(attributes)]),
    ...Object.entries(show.value),
  ];
  const record = new Map<string, number>();
  for (const [name, value] of said) if (!record.has(name)) record.set(name, value);
  return { record, target: target.value };
});
/** Frames before and after, of the same set. */
const beside = computed(() => {
  const { picture, set } = look.shown ?? {};
  if (!picture || !set || picture.frame === null) return [];
  return look.sources
    .filter(
      (one) =>
        one.set?.id === set.id && one.picture?.frame != null && Math.abs(one.picture.frame - picture.frame!) === 1,
    )
    .map(({ key, ref: from }) => ({ key, from }));
});

/** Screen pixels to one of the picture, where a place is jumped to. */
const CLOSE = 8;
const findings = shallowRef<Finding[] | null>(null);
const failure = ref('');
let turn = 0;
watch(
  () =>
    `${look.shown?.key} ${look.information?.done} ${JSON.stringify([...renderedWith.value.record])} ${target.value?.name}`,
  async () => {
    findings.value = null;
    failure.value = '';
    if (!look.shown || look.information?.done !== 1) return;
    const mine = ++turn;
    try {
      for (const { key, from } of beside.value) await desk.ask('open', { key, ref: from });
      const found = await desk.ask('causes', {
        key: look.shown.key,
        beside: beside.value.map(({ key }) => key),
        renderedWith: renderedWith.value,
      });
      if (mine === turn) findings.value = found;
    } catch (error) {
      if (mine === turn) failure.value = (error as Error).message;
    }
  },
  { immediate: true },
);
</script>

<template>
  <section class="causes" aria-label="Causes">
    <p v-if="!look.shown" class="dim">Choose a picture below to have its causes found.</p>
    <p v-else-if="failure" class="bad" role="alert">{{ failure }}</p>
    <p v-else-if="findings === null" class="dim" role="status">Finding causes in the picture …</p>
    <p v-else-if="findings.length === 0" class="soft">Nothing found: no noise, no fireflies, or no colour.</p>
    <article v-for="finding in findings ?? []" :key="finding.family">
      <p class="head">
        <SeverityTag :severity="finding.severity" />
        <b>{{ finding.sentence }}</b>
      </p>
      <p class="dim">{{ finding.headline }}. {{ finding.why }}</p>
      <ul class="remedies">
        <li v-for="remedy in finding.remedies" :key="remedy.id">
          {{ remedy.title }}
          <span v-if="remedy.predicted" class="dim num">{{ tellEffect(remedy.predicted) }}</span>
        </li>
      </ul>
      <EvidenceList :evidence="finding.evidence" @place="(x, y) => (look.place = { scale: CLOSE, x, y })" />
    </article>
    <p v-if="findings?.length" class="dim small">
      Plans are given as factors, and in numbers where the sample counts are known: from the file, entered under Health,
      or stored as “sampling” in the show’s profile. With a target chosen at Intake they are in its dials.
    </p>
  </section>
</template>

<style scoped>
.causes {
  padding: 8px 14px;
  display: flex;
  flex-direction: column;
  gap: 12px;
  font-size: var(--small);
}
article {
  display: grid;
  gap: 6px;
  border-bottom: 1px solid var(--line);
  padding-bottom: 10px;
}
.head {
  display: grid;
  grid-template-columns: 62px 1fr;
  gap: 8px;
  align-items: start;
}
.remedies {
  display: grid;
  gap: 4px;
}
.remedies li {
  background: var(--up);
  border-radius: 3px;
  padding: 4px 10px;
}
.small {
  font-size: var(--small);
}
.bad {
  color: var(--stop);
}
</style>
