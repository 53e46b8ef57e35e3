<script setup lang="ts">
/** The findings of the picture that is up, and the chosen one in full. */
import ContextMenu from 'primevue/contextmenu';
import Button from 'primevue/button';
import Listbox from 'primevue/listbox';
import Message from 'primevue/message';
import SelectButton from 'primevue/selectbutton';
import ToggleButton from 'primevue/togglebutton';
import type { MenuItem } from 'primevue/menuitem';
import { computed, ref, useTemplateRef } from 'vue';
import type { FindingSummary } from '../../../core/contracts/events.ts';
import { FIRST_LOOK_GROUPS, hasFirstLook } from '../../../core/diagnose/first-look.ts';
import { historyOf } from '../../../core/diagnose/history.ts';
import { groupsOf, samplesOf } from '../../../core/render/film/rounds.ts';
import { copyText } from '../../copy-text.ts';
import { severityName } from '../../severity-words.ts';
import { useCurrent } from '../../stores/current.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import SeverityTag from '../shared/SeverityTag.vue';
import FirstSteps from '../FirstSteps.vue';
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
const familiesOf = (findings: FindingSummary[]) => [...new Set(findings.map(({ family: its }) => its))];
const called = (name: string) => name[0].toUpperCase() + name.slice(1).replace('-', ' ');
const families = computed(() => familiesOf(current.findings));
const choices = computed(() => [{ id: null, name: 'All' }, ...families.value.map((id) => ({ id, name: called(id) }))]);
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
const groups = computed(() =>
  familiesOf(listed.value).map((name) => ({
    name: called(name),
    items: listed.value.filter((one) => one.family === name),
  })),
);
const history = computed(() => historyOf(shot.state!, current.render?.id ?? 0));

async function renderHead(): Promise<void> {
  if (await shot.renderSheet(current.render!.sheet)) view.renderId = null;
}

const menu = useTemplateRef('menu');
const items = ref<MenuItem[]>([]);
/** What can be done with the finding under the pointer. */
function openMenu(event: MouseEvent): void {
  const option = (event.target as HTMLElement).closest('[role="option"]');
  const id = Number(option?.querySelector<HTMLElement>('[data-finding]')?.dataset.finding);
  const item = current.findings.find((one) => one.id === id);
  if (!item) return;
  choose(item.id);
  const { firstRemedy: remedy } = item;
  const tryFirst = async () => {
    const trial = await shot.tryOut({ finding: item.id, remedy, region: null, sheet: item.sheet, values: null });
    if (trial) view.trialId = trial.id;
  };
  items.value = [
    ...(remedy ? [{ label: 'Try the first remedy', command: () => void tryFirst() }] : []),
    ...(item.aside === null ? [] : [{ label: 'Reopen', command: () => void shot.takeUp(item) }]),
    { label: 'Copy the sentence', command: () => void copyText(item.sentence, 'Copied.') },
    { label: 'Copy link to this view', command: () => void copyText(window.location.href, 'Link copied.') },
  ];
  menu.value!.show(event);
}

function choose(id: number): void {
  view.findingId = id;
  view.region = null;
  view.trialId = null;
}
</script>

<template>
  <section class="findings" aria-label="Findings">
    <FirstSteps />
    <p v-if="!current.render" class="dim">Render the shot to find causes.</p>
    <template v-else>
      <div v-if="shot.isOlder(current.render)" class="older" role="status">
        This picture is version {{ current.render.version }}; the shot is at {{ shot.state!.head.number }}.
        <Button @click="renderHead">Render version {{ shot.state!.head.number }}</Button>
      </div>
      <p v-if="current.render.state === 'active'" class="dim" role="status">
        {{
          early !== null
            ? `First look, at ${early} samples: limits, glass, lights, shapes and images. Noise and the rest when the render is done.`
            : hasFirstLook(groupsOf(current.render.samples))
              ? `First look at ${samplesOf(FIRST_LOOK_GROUPS)} samples; the full examination follows when the render is done.`
              : 'Causes are found when the render is done. You can look at its passes meanwhile.'
        }}
      </p>
      <div v-else-if="current.render.state === 'stopped'" class="older">
        Cancelled at {{ Math.round(current.render.samplesDone) }} of {{ current.render.samples }} samples.
        <Button
          severity="secondary"
          variant="outlined"
          @click="shot.continueRender(current.render.id, current.render.samples)"
        >
          Resume
        </Button>
      </div>
      <p v-else-if="current.render.examined === 'waiting'" class="dim" role="status">
        Finding causes, {{ current.render.looked.length }} of
        {{ current.render.looked.length + current.render.toLook.length }} families done.
        <template v-if="current.render.toLook.length">Next: {{ current.render.toLook[0] }}.</template>
      </p>
      <div v-else-if="current.render.examined === 'stopped'" class="older">
        <span>
          Examination cancelled.
          <template v-if="current.render.looked.length">Done: {{ current.render.looked.join(', ') }}.</template>
        </span>
        <Button severity="secondary" variant="outlined" @click="shot.resumeExamination(current.render.id)">
          Resume
        </Button>
      </div>
      <Message v-else-if="current.render.examined === 'failed'" severity="error" role="alert">
        {{ current.render.error }}
        <Button severity="secondary" variant="outlined" @click="shot.resumeExamination(current.render.id)">
          Examine again
        </Button>
      </Message>
      <p v-else-if="current.render.examined === 'done' && current.findings.length === 0" class="soft">
        Nothing found in this render.
      </p>
    </template>
    <div v-if="families.length > 1" class="families">
      <SelectButton
        v-model="family"
        :options="choices"
        option-label="name"
        option-value="id"
        :allow-empty="false"
        aria-label="Families"
      />
      <span class="gap"></span>
      <ToggleButton v-model="isGrouped" on-label="Group" off-label="Group" title="By family instead of worst first" />
    </div>
    <Listbox
      v-if="current.findings.length"
      :model-value="current.finding"
      :options="isGrouped ? groups : listed"
      :option-label="(item: FindingSummary) => `${severityName(item.severity)}: ${item.sentence}`"
      data-key="id"
      :option-group-label="isGrouped ? 'name' : undefined"
      :option-group-children="isGrouped ? 'items' : undefined"
      scroll-height="none"
      aria-label="Findings, worst first"
      class="rows"
      @update:model-value="$event && choose($event.id)"
      @contextmenu.prevent="openMenu"
    >
      <template #option="{ option: item }">
        <SeverityTag :severity="item.severity" />
        <span class="sentence" :data-finding="item.id" :class="{ aside: item.aside !== null }"
          >{{ item.sentence }}<span v-if="history.cameBack.has(item.id)" class="dim"> Back again.</span
          ><span v-if="item.aside" class="dim"> Dismissed: {{ item.aside }}</span></span
        >
      </template>
    </Listbox>
    <Button
      v-if="hidden"
      severity="secondary"
      variant="text"
      class="count"
      :aria-expanded="isWhole"
      @click="isWhole = !isWhole"
    >
      {{ isWhole ? '▾' : '▸' }} {{ hidden }} preflight {{ hidden === 1 ? 'warning' : 'warnings' }}
    </Button>
    <p v-if="aside" class="dim count">{{ aside }} dismissed</p>
    <ul v-if="history.gone.length" class="gone">
      <li v-for="{ finding, trial } in history.gone" :key="finding.id" class="dim">
        {{ trial === null ? 'No longer found' : `Resolved by trial ${trial}` }}: {{ finding.sentence }}
      </li>
    </ul>
    <ContextMenu ref="menu" :model="items" />
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
.rows {
  margin: 0 -14px;
}
.rows :deep(.p-listbox-option) {
  display: grid;
  grid-template-columns: 62px 1fr;
  gap: 8px;
  align-items: baseline;
  font-size: var(--small);
  line-height: 1.35;
  white-space: normal;
}
.rows :deep(.p-listbox-option-selected) {
  box-shadow: inset 2px 0 var(--act);
}
.sentence.aside {
  opacity: 0.7;
}
.families {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.families :deep(.p-selectbutton) {
  flex-wrap: wrap;
}
.gone {
  font-size: var(--small);
}
.count {
  font-size: var(--small);
}
.older {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  background: var(--up);
  padding: 6px 10px;
  color: var(--care);
  font-size: var(--small);
}
</style>
