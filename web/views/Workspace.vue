<script setup lang="ts">
/** A shot's bench: the picture in the middle, and around it everything that is known and can be done about it. */
import Tab from 'primevue/tab';
import TabList from 'primevue/tablist';
import TabPanel from 'primevue/tabpanel';
import TabPanels from 'primevue/tabpanels';
import Tabs from 'primevue/tabs';
import Splitter from 'primevue/splitter';
import SplitterPanel from 'primevue/splitterpanel';
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import BudgetPanel from '../components/trials/BudgetPanel.vue';
import HistoryPanel from '../components/history/HistoryPanel.vue';
import AddSceneDialog from '../components/controls/AddSceneDialog.vue';
import BorrowDialog from '../components/controls/BorrowDialog.vue';
import ImageDialog from '../components/controls/ImageDialog.vue';
import FramesDialog from '../components/history/FramesDialog.vue';
import FindingsPanel from '../components/findings/FindingsPanel.vue';
import LightPanel from '../components/place/LightPanel.vue';
import KeysDialog from '../components/shared/KeysDialog.vue';
import PassRail from '../components/stage/PassRail.vue';
import PictureStage from '../components/stage/PictureStage.vue';
import ScenePanel from '../components/controls/ScenePanel.vue';
import SceneStage from '../components/stage/SceneStage.vue';
import SheetsPanel from '../components/controls/SheetsPanel.vue';
import TopBar from '../components/TopBar.vue';
import TrialLedger from '../components/trials/TrialLedger.vue';
import type { TrialSummary } from '../../core/contracts/events.ts';
import { isPictureName } from '../../core/formats/picture-names.ts';
import { PLAIN_VIEW } from '../../core/picture/view.ts';
import { DIALS } from '../../core/document/dials.ts';
import { itemsOf } from '../../core/document/controls.ts';
import { passName } from '../format.ts';
import { severityName } from '../severity-words.ts';
import { useTurns } from '../in-turns.ts';
import { useAddress, useAlone, useKeys } from '../station.ts';
import { useCommands, type Command } from '../stores/commands.ts';
import { usePageTitle } from '../work-done.ts';
import { useUploads } from '../picture/uploads.ts';
import { filesOfDrop, isSceneName } from '../remote/dropped-files.ts';
import { useCurrent } from '../stores/current.ts';
import { useMessages } from '../stores/messages.ts';
import { useLive } from '../stores/live.ts';
import { usePending } from '../stores/pending.ts';
import { useProbe } from '../stores/probe.ts';
import { canDrop, canKeep, isRunning } from '../trial-state.ts';
import { useShot } from '../stores/shot.ts';
import { useView } from '../stores/view.ts';

const props = defineProps<{ code: string }>();
const route = useRoute();
const router = useRouter();
const shot = useShot();
const view = useView();
const current = useCurrent();
const live = useLive();
const pending = usePending();
const stage = ref<InstanceType<typeof PictureStage> | null>(null);
/** The picture first, then what is told of it. */
const { turn, up } = useTurns(3, () => shot.state !== null);
// There is no picture to wait for.
watch(() => shot.state !== null && !current.render?.samplesDone, (none) => none && up(), { flush: 'post' }); // prettier-ignore

watch(
  () => props.code,
  (code) => {
    current.reset();
    live.end();
    pending.open(code);
    view.fromQuery(route.query);
    shot.open(code);
  },
  { immediate: true },
);
// Values of what another page took out meanwhile are let go.
watch(
  () => shot.state?.document,
  (document) => {
    const lost = document ? pending.fitTo(document) : 0;
    if (lost) useMessages().failed(`${lost} unsaved values belong to items that no longer exist.`);
  },
);
onBeforeUnmount(() => {
  live.end();
  shot.close();
});

function stepFinding(by: number): void {
  const list = current.findings;
  if (list.length === 0) return;
  const at = list.findIndex((f) => f.id === current.finding?.id);
  view.findingId = list[(at + by + list.length) % list.length].id;
  view.region = null;
  view.trialId = null;
}

function stepPass(by: number): void {
  const names = current.passes.map((pass) => pass.name);
  view.pass = names[(names.indexOf(view.pass) + by + names.length) % names.length];
}

function stepTrial(by: number): void {
  const list = shot.state?.trials ?? [];
  if (list.length === 0) return;
  const at = list.findIndex((t) => t.id === view.trialId);
  view.trialId = list[at < 0 ? list.length - 1 : (at + by + list.length) % list.length].id;
}

const shownTrial = computed(() => shot.state?.trials.find(({ id }) => id === view.trialId));
/** What can be done with the trial that is shown. */
function trialCommands(trial: TrialSummary): Command[] {
  const one = (name: string, detail: string, run: () => void): Command => ({ id: `trial ${name}`, group: 'Do', name, detail, run }); // prettier-ignore
  return [
    ...(canKeep(trial) ? [one(`Keep trial ${trial.number} …`, 'Shift K', () => (view.keepingId = trial.id))] : []),
    ...(isRunning(trial) ? [one(`Cancel trial ${trial.number}`, trial.title, () => void shot.stopTrial(trial))] : []),
    ...(canDrop(trial) ? [one(`Drop trial ${trial.number}`, trial.title, () => void shot.dropTrial(trial))] : []),
  ]; // prettier-ignore
}

function toggleLive(): void {
  if (live.isOn) live.end();
  else if (live.obstacle) useMessages().failed(live.obstacle);
  else live.isOn = true;
}

function askLight(): void {
  const { at } = useProbe();
  if (at) view.askAt(at.x, at.y);
  else useMessages().failed('Point at the picture first.');
}

/** From a step of a sweep back to its contact sheet, from there to the picture. */
function leave(): void {
  if (view.trialId !== null) [view.sweepId, view.trialId] = [current.trial?.sweepId ?? null, null];
  else view.sweepId = null;
}

const PANELS = [
  { id: 'findings', name: 'Findings', shows: FindingsPanel },
  { id: 'light', name: 'Light', shows: LightPanel },
  { id: 'sheets', name: 'Sheets', shows: SheetsPanel },
  { id: 'scene', name: 'Scene', shows: ScenePanel },
  { id: 'history', name: 'History', shows: HistoryPanel },
  { id: 'budget', name: 'Budget', shows: BudgetPanel },
] as const;

function stepPanel(by: number): void {
  const at = PANELS.findIndex((panel) => panel.id === view.panel);
  view.panel = PANELS[(at + by + PANELS.length) % PANELS.length].id;
}

/** Of one image it is asked what it is to be, objects of a scene are added, and several pictures are looked at beside the shot. */
async function drop(event: DragEvent): Promise<void> {
  const files = await filesOfDrop(event);
  if (files.length === 1 && isPictureName(files[0].file.name)) {
    view.adding = files[0].file;
    return;
  }
  if (files.some(({ file }) => isSceneName(file.name))) {
    view.addingScene = files;
    return;
  }
  const taken = await useUploads().add(props.code, files);
  if (taken) await router.push({ name: 'look', params: { code: props.code } });
  else if (files.length) useMessages().failed('Pictures and scene files (.gltf, .glb, .obj, .usda) can be dropped here.'); // prettier-ignore
}

async function tryRemedy(remedy: string | null | undefined): Promise<void> {
  const item = current.finding;
  if (!item || !remedy) return;
  const trial = await shot.tryOut({ finding: item.id, remedy, region: view.region, sheet: item.sheet, values: null });
  if (trial) view.trialId = trial.id;
}

const { isAlone, aloneKeys } = useAlone();
const { keys, isListingKeys } = useKeys({
  ...aloneKeys,
  boost: () => view.toggleBoost(),
  darker: () => (view.exposure = Math.max(-10, view.exposure - 0.5)),
  brighter: () => (view.exposure = Math.min(10, view.exposure + 0.5)),
  plain: () => view.setView(PLAIN_VIEW),
  mask: () => (view.showMask = !view.showMask),
  region: () => stage.value?.draw(),
  noRegion: () => (view.region = null),
  fit: () => stage.value?.fit(),
  actual: () => stage.value?.actual(),
  nearer: () => stage.value?.zoom(1.5),
  further: () => stage.value?.zoom(1 / 1.5),
  live: toggleLive,
  light: askLight,
  stage: () => (view.isStaged = !view.isStaged),
  nextPass: () => stepPass(1),
  passBefore: () => stepPass(-1),
  beauty: () => (view.pass = 'beauty'),
  next: () => stepFinding(1),
  before: () => stepFinding(-1),
  tryFirst: () => void tryRemedy(current.finding?.firstRemedy),
  nextTrial: () => stepTrial(1),
  trialBefore: () => stepTrial(-1),
  keep: () => {
    const trial = shownTrial.value;
    if (trial && canKeep(trial)) view.keepingId = trial.id;
  },
  wipe: () => (view.wipe = view.wipe < 0.5 ? 1 : 0),
  nextPanel: () => stepPanel(1),
  panelBefore: () => stepPanel(-1),
  leave,
  otherStation: () => void router.push({ name: 'look', params: { code: props.code } }),
  render: () => void shot.renderSheet(current.sheetName).then((done) => done && (view.renderId = null)),
  undo: () => void shot.undo(),
  redo: () => void shot.redo(),
});
useAddress({
  name: 'shot',
  query: () => view.query,
  fromQuery: (query) => view.fromQuery(query),
  steps: ['render', 'finding', 'trial', 'sweep', 'pass', 'panel', 'item'],
  there: () => shot.state?.code,
  clean: current.dropMissing,
});

useCommands().provide(() => [
  { id: 'frames', group: 'Do', name: 'Render frames …', detail: 'a range as one', run: () => (view.isFraming = true) },
  ...(shownTrial.value ? trialCommands(shownTrial.value) : []),
  ...(current.detail?.remedies ?? []).filter(({ change }) => change !== null).map(({ id, title }): Command => ({ id: `try ${id}`, group: 'Do', name: `Try here: ${title}`, run: () => void tryRemedy(id) })),
  ...PANELS.map(({ id, name }): Command => ({ id: `panel ${id}`, group: 'Go to', name: `${name} panel`, run: () => (view.panel = id) })),
  ...current.findings.map((one): Command => ({ id: `finding ${one.id}`, group: 'Findings', name: one.sentence, detail: severityName(one.severity), run: () => { view.panel = 'findings'; view.findingId = one.id; view.region = null; view.trialId = null; } })),
  ...current.passes.map(({ name, group }): Command => ({ id: `pass ${name}`, group: 'Passes', name: passName(name), detail: group, run: () => (view.pass = name) })),
  ...DIALS.map(({ pointer, label, group }): Command => ({ id: `dial ${pointer}`, group: 'Controls', name: label, detail: group, run: () => view.showDial(pointer) })),
  ...(shot.state ? itemsOf(shot.state.document) : []).map(({ pointer, name, group }): Command => ({ id: `item ${pointer}`, group: 'Controls', name, detail: group, run: () => view.showDial(pointer) })),
]); // prettier-ignore

usePageTitle(computed(() => (shot.state ? `${shot.state.code} ${shot.state.name} · Dusting` : 'Dusting')));
</script>

<template>
  <main v-if="shot.missing" class="missing">
    <h1>{{ shot.missing }}</h1>
    <p class="soft">It may have another code by now. <RouterLink to="/">All shots</RouterLink></p>
  </main>
  <div v-else-if="shot.state" class="workspace" :class="{ alone: isAlone }" @dragover.prevent @drop.prevent="drop">
    <TopBar @keys="isListingKeys = true" />
    <Splitter layout="vertical" state-key="dusting.rows" state-storage="local" class="rows">
      <SplitterPanel :size="82" :min-size="40">
        <Splitter state-key="dusting.columns" state-storage="local" class="columns">
          <SplitterPanel :size="17" :min-size="10"><PassRail v-if="turn > 1" /></SplitterPanel>
          <SplitterPanel :size="53" :min-size="30"
            ><main id="main" tabindex="-1" :class="{ staged: view.isStaged }">
              <PictureStage ref="stage" @drawn="up" /><SceneStage v-if="view.isStaged" /></main
          ></SplitterPanel>
          <SplitterPanel :size="30" :min-size="20">
            <aside>
              <Tabs v-if="turn > 0" v-model:value="view.panel" lazy :show-navigators="false" class="panels">
                <TabList aria-label="Panel">
                  <Tab v-for="panel in PANELS" :key="panel.id" :value="panel.id">{{ panel.name }}</Tab>
                </TabList>
                <TabPanels>
                  <TabPanel v-for="panel in PANELS" :key="panel.id" :value="panel.id">
                    <component :is="panel.shows" />
                  </TabPanel>
                </TabPanels>
              </Tabs>
            </aside>
          </SplitterPanel>
        </Splitter>
      </SplitterPanel>
      <SplitterPanel :size="18" :min-size="10"><TrialLedger v-if="turn > 2" /></SplitterPanel>
    </Splitter>
    <ImageDialog v-if="view.adding" :file="view.adding" @closed="view.adding = null" />
    <AddSceneDialog v-if="view.addingScene" :files="view.addingScene" @closed="view.addingScene = null" />
    <BorrowDialog v-if="view.isBorrowing" @closed="view.isBorrowing = false" />
    <FramesDialog v-if="view.isFraming" @closed="view.isFraming = false" />
    <KeysDialog v-if="isListingKeys" :keys="keys" @closed="isListingKeys = false" />
  </div>
  <p v-else class="missing dim" role="status">Opening {{ code }} …</p>
</template>

<style scoped>
.workspace {
  height: 100%;
  display: grid;
  grid-template: 44px minmax(0, 1fr) / minmax(0, 1fr);
}
/* Names of passes are read whole, however narrow the window. */
.columns > :deep(.p-splitterpanel:first-child) {
  min-width: 208px;
}
.rows,
.columns {
  height: 100%;
  min-height: 0;
}
main {
  height: 100%;
  display: grid;
  grid-template: minmax(0, 1fr) / minmax(0, 1fr);
}
.staged {
  grid-template-rows: minmax(0, 1fr) minmax(0, 1fr);
}
aside {
  height: 100%;
  background: var(--panel);
}
.alone {
  grid-template-rows: 0 minmax(0, 1fr);
}
.alone > header,
.alone .rows > :not(:first-child),
.alone .columns > :not(:nth-child(3)) {
  display: none;
}
.alone .rows > :first-child,
.alone .columns > :nth-child(3) {
  flex-basis: 100% !important;
}
.missing {
  padding: 40px;
}
</style>
