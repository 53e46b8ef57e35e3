<script setup lang="ts">
/** The findings of the picture that is up, and the chosen one in full. */
import { computed, ref } from 'vue';
import { FIRST_LOOK_GROUPS, hasFirstLook } from '../../../core/diagnose/first-look.ts';
import { historyOf } from '../../../core/diagnose/history.ts';
import { groupsOf, samplesOf } from '../../../core/render/film/rounds.ts';
import { useCurrent } from '../../stores/current.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import FindingDetail from './FindingDetail.vue';

const shot = useShot();
const view = useView();
const current = useCurrent();

/** Samples of the first look, while it is the only one. */
const early = computed(() => {
  const { render } = current;
  const found = current.findings.filter((one) => one.renderId !== null && one.samples < (render?.samples ?? 0));
  return render?.state === 'active' && found.length ? found[0].samples : null;
});
const aside = computed(() => current.findings.filter((f) => f.aside !== null).length);

/** Only findings of this family; null: all. */
const family = ref<string | null>(null);
const families = computed(() => [...new Set(current.findings.map(({ family: its }) => its))]);
const listed = computed(() => {
  const chosen = families.value.includes(family.value ?? '') ? family.value : null;
  const own = current.findings.filter((one) => chosen === null || one.family === chosen);
  if (isWhole.value || chosen !== null) return own;
  return own.filter((one) => one.of !== 'version' || one.severity === 'stop' || one.id === current.finding?.id);
});
/** What preflight only wants a look at is told on request: there may be a lot of it. */
const isWhole = ref(false);
const hidden = computed(() =>
  family.value === null ? current.findings.filter((one) => one.of === 'version' && one.severity !== 'stop').length : 0,
);
/** Under their families, each where its worst finding stands; or all in one, worst first. */
const isGrouped = ref(false);
const groups = computed(() => {
  if (!isGrouped.value) return [{ name: null, items: listed.value }];
  const names = [...new Set(listed.value.map((one) => one.family))];
  return names.map((name) => ({ name, items: listed.value.filter((one) => one.family === name) }));
});
const history = computed(() => historyOf(shot.state!, current.render?.id ?? 0));

function choose(id: number): void {
  view.findingId = id;
  view.region = null;
  view.trialId = null;
}
</script>

<template>
  <section class="findings" aria-label="Findings">
    <p v-if="!current.render" class="dim">Render the shot, and its causes are looked for.</p>
    <template v-else>
      <div v-if="shot.isOlder(current.render)" class="older" role="status">
        This picture is version {{ current.render.version }}; the shot is at {{ shot.state!.head.number }}.
        <button class="plain" @click="shot.renderSheet(current.render.sheet)">Render it <kbd>R</kbd></button>
      </div>
      <p v-if="current.render.state === 'active'" class="dim" role="status">
        {{
          early !== null
            ? `First look, at ${early} samples: limits, glass, lights and facets. Noise and the rest when the render is done.`
            : hasFirstLook(groupsOf(current.render.samples))
              ? `A first look for causes is taken at ${samplesOf(FIRST_LOOK_GROUPS)} samples, the whole of it when the render is done.`
              : 'Causes are looked for when the render is done. You can look at its passes meanwhile.'
        }}
      </p>
      <div v-else-if="current.render.state === 'stopped'" class="older">
        Stopped at {{ Math.round(current.render.samplesDone) }} of {{ current.render.samples }} samples.
        <button class="plain" @click="shot.continueRender(current.render.id, current.render.samples)">Go on</button>
      </div>
      <p v-else-if="current.render.examined === 'waiting'" class="dim" role="status">Looking for causes …</p>
      <p v-else-if="current.render.examined === 'failed'" class="bad" role="alert">
        {{ current.render.error }}
      </p>
      <p v-else-if="current.render.examined === 'done' && current.findings.length === 0" class="soft">
        Nothing was found in this render.
      </p>
    </template>
    <p v-if="families.length > 1" class="families" role="group" aria-label="Families">
      <button class="flat" :aria-pressed="family === null" @click="family = null">All</button>
      <button
        v-for="one in families"
        :key="one"
        class="flat"
        :aria-pressed="family === one"
        @click="family = family === one ? null : one"
      >
        {{ one.replace('-', ' ') }}
      </button>
      <span class="gap"></span>
      <button
        class="flat"
        :aria-pressed="isGrouped"
        title="By family instead of worst first"
        @click="isGrouped = !isGrouped"
      >
        Group
      </button>
    </p>
    <ul v-for="group in current.findings.length ? groups : []" :key="group.name ?? ''" class="rows">
      <li v-if="group.name" class="group">{{ group.name.replace('-', ' ') }} {{ group.items.length }}</li>
      <li v-for="item in group.items" :key="item.id">
        <button
          class="bare row"
          :class="{ on: item.id === current.finding?.id, aside: item.aside !== null }"
          :aria-pressed="item.id === current.finding?.id"
          @click="choose(item.id)"
        >
          <span class="severity" :class="item.severity">{{ item.severity }}</span>
          <span
            >{{ item.sentence }}<span v-if="history.cameBack.has(item.id)" class="dim"> Come back.</span
            ><span v-if="item.aside" class="dim"> Dismissed: {{ item.aside }}</span></span
          >
        </button>
      </li>
    </ul>
    <button v-if="hidden" class="flat count" :aria-expanded="isWhole" @click="isWhole = !isWhole">
      {{ isWhole ? '▾' : '▸' }} {{ hidden }} of preflight {{ hidden === 1 ? 'wants' : 'want' }} a look
    </button>
    <p v-if="aside" class="dim count">{{ aside }} dismissed</p>
    <ul v-if="history.gone.length" class="gone">
      <li v-for="{ finding, trial } in history.gone" :key="finding.id" class="dim">
        {{ trial === null ? 'No longer found' : `Resolved by trial ${trial}` }}: {{ finding.sentence }}
      </li>
    </ul>
    <FindingDetail v-if="current.finding" :key="current.finding.id" :item="current.finding" />
  </section>
</template>

<style scoped>
.findings {
  padding: 6px 14px 8px;
  overflow-x: hidden;
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.group {
  padding: 4px 14px 2px;
  font-size: 11px;
  color: var(--dim);
}
.rows {
  margin: 0 -14px;
}
button.row {
  display: grid;
  grid-template-columns: 54px 1fr;
  gap: 8px;
  width: 100%;
  padding: 3px 14px;
  align-items: baseline;
  color: var(--soft);
  font-size: 12.5px;
  line-height: 1.35;
}
button.row:hover {
  background: #232323;
}
button.row.on {
  background: var(--up);
  color: var(--text);
  box-shadow: inset 2px 0 var(--act);
}
button.row.aside {
  opacity: 0.7;
}
.families {
  display: flex;
  gap: 2px;
  margin: 0 -8px;
}
.families button {
  font-size: 11px;
}
.families button::first-letter,
.group::first-letter {
  text-transform: uppercase;
}
.families button[aria-pressed='true'] {
  color: var(--text);
  box-shadow: inset 0 -1px var(--act);
}
.gone {
  font-size: 11px;
}
.count {
  font-size: 11px;
}
.older {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  background: var(--up);
  padding: 6px 10px;
  color: var(--care);
  font-size: 12px;
}
.bad {
  color: var(--stop);
}
</style>
