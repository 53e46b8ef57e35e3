<script setup lang="ts">
/** A shot's bench: the picture in the middle, and around it everything that is known and can be done about it. */
import Splitter from 'primevue/splitter';
import SplitterPanel from 'primevue/splitterpanel';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import BudgetPanel from '../components/trials/BudgetPanel.vue';
import FindingsPanel from '../components/findings/FindingsPanel.vue';
import KeysDialog from '../components/KeysDialog.vue';
import PassRail from '../components/stage/PassRail.vue';
import PictureStage from '../components/stage/PictureStage.vue';
import ScenePanel from '../components/controls/ScenePanel.vue';
import SheetsPanel from '../components/controls/SheetsPanel.vue';
import TopBar from '../components/TopBar.vue';
import TrialLedger from '../components/trials/TrialLedger.vue';
import { PLAIN_VIEW } from '../../core/picture/view.ts';
import { pressKey, type Key } from '../keys.ts';
import { useUploads } from '../picture/uploads.ts';
import { filesOfDrop } from '../remote/dropped-files.ts';
import { useCurrent } from '../stores/current.ts';
import { useMessages } from '../stores/messages.ts';
import { useLive } from '../stores/live.ts';
import { usePending } from '../stores/pending.ts';
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
const isListingKeys = ref(false);

watch(
  () => props.code,
  (code) => {
    current.reset();
    live.end();
    pending.reset();
    view.fromQuery(route.query);
    shot.open(code);
  },
  { immediate: true },
);
watch(
  () => view.query,
  (query) => {
    if (route.name === 'shot') void router.replace({ query });
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

function toggleLive(): void {
  if (live.isOn) live.end();
  else if (live.obstacle) useMessages().failed(live.obstacle);
  else live.isOn = true;
}

/** From a step of a sweep back to its contact sheet, from there to the picture. */
function leave(): void {
  if (view.trialId !== null) [view.sweepId, view.trialId] = [current.trial?.sweepId ?? null, null];
  else view.sweepId = null;
}

const PANELS = [
  { id: 'findings', name: 'Findings' },
  { id: 'sheets', name: 'Sheets' },
  { id: 'scene', name: 'Scene' },
  { id: 'budget', name: 'Budget' },
] as const;

function nextPanel(): void {
  const at = PANELS.findIndex((panel) => panel.id === view.panel);
  view.panel = PANELS[(at + 1) % PANELS.length].id;
}

/** Pictures that are dropped are looked at beside the shot. */
async function drop(event: DragEvent): Promise<void> {
  const files = await filesOfDrop(event);
  const taken = await useUploads().add(props.code, files);
  if (taken) await router.push({ name: 'look', params: { code: props.code } });
  else if (files.length) useMessages().failed('Only pictures can be dropped here. Files of the scene are brought in at Intake.'); // prettier-ignore
}

async function tryFirst(): Promise<void> {
  const item = current.finding;
  const remedy = item?.firstRemedy;
  if (!item || !remedy) return;
  const trial = await shot.tryOut({ finding: item.id, remedy, region: view.region, sheet: item.sheet, values: null });
  if (trial) view.trialId = trial.id;
}

const keys: Key[] = [
  { keys: ['l'], shown: 'L', does: 'Lift: two stops up, gamma 1.25', run: () => view.toggleLift() },
  { keys: ['['], shown: '[', does: 'Half a stop darker', run: () => (view.exposure = Math.max(-10, view.exposure - 0.5)) },
  { keys: [']'], shown: ']', does: 'Half a stop brighter', run: () => (view.exposure = Math.min(10, view.exposure + 0.5)) },
  { keys: ['0'], shown: '0', does: 'Exposure and gamma as rendered', run: () => view.setView(PLAIN_VIEW) },
  { keys: ['m'], shown: 'M', does: 'The mask of the finding, or of the object whose controls are open', run: () => (view.showMask = !view.showMask) },
  { keys: ['p'], shown: 'P', does: 'Next pass', run: () => stepPass(1) },
  { keys: ['Shift+p'], shown: 'Shift P', does: 'Pass before', run: () => stepPass(-1) },
  { keys: ['b'], shown: 'B', does: 'Back to the beauty', run: () => (view.pass = 'beauty') },
  { keys: ['j'], shown: 'J', does: 'Next finding', run: () => stepFinding(1) },
  { keys: ['k'], shown: 'K', does: 'Finding before', run: () => stepFinding(-1) },
  { keys: ['t'], shown: 'T', does: "Try the finding's first remedy on the region", run: () => void tryFirst() },
  { keys: ['.'], shown: '.', does: 'Next trial', run: () => stepTrial(1) },
  { keys: [','], shown: ',', does: 'Trial before', run: () => stepTrial(-1) },
  { keys: ['w'], shown: 'W', does: 'Blink between before and after of a trial', run: () => (view.wipe = view.wipe < 0.5 ? 1 : 0) },
  { keys: ['Escape'], shown: 'Esc', does: 'Leave the trial, then its sweep, back to the picture', run: leave },
  { keys: ['e'], shown: 'E', does: 'Live look: render the region in this browser while values are set', run: toggleLive },
  { keys: ['g'], shown: 'G', does: 'Draw a region', run: () => stage.value?.draw() },
  { keys: ['f'], shown: 'F', does: 'Fit the picture', run: () => stage.value?.fit() },
  { keys: ['1'], shown: '1', does: 'One pixel of the picture on one of the screen', run: () => stage.value?.actual() },
  { keys: ['s'], shown: 'S', does: 'Next panel: findings, sheets, scene, budget', run: nextPanel },
  { keys: ['v'], shown: 'V', does: 'Look: all passes, pictures, comparisons', run: () => void router.push({ name: 'look', params: { code: props.code } }) },
  { keys: ['r'], shown: 'R', does: 'Render the present version anew', run: () => void shot.renderSheet(current.sheetName).then((done) => done && (view.renderId = null)) },
  { keys: ['Ctrl+z'], shown: 'Ctrl Z', does: 'Undo the last kept change', run: () => void shot.undo() },
  { keys: ['Ctrl+Shift+z', 'Ctrl+y'], shown: 'Ctrl Shift Z', does: 'Redo it', run: () => void shot.redo() },
  { keys: ['?', 'Shift+?'], shown: '?', does: 'This list', run: () => (isListingKeys.value = !isListingKeys.value) },
]; // prettier-ignore

const onKey = (event: KeyboardEvent) => pressKey(event, keys);
onMounted(() => window.addEventListener('keydown', onKey));
onBeforeUnmount(() => window.removeEventListener('keydown', onKey));

const title = computed(() => (shot.state ? `${shot.state.code} ${shot.state.name} · Dusting` : 'Dusting'));
watch(title, (now) => (document.title = now), { immediate: true });
</script>

<template>
  <main v-if="shot.missing" class="missing">
    <h1>{{ shot.missing }}</h1>
    <p class="soft">It may have another code by now. <RouterLink to="/">All shots</RouterLink></p>
  </main>
  <div v-else-if="shot.state" class="workspace" @dragover.prevent @drop.prevent="drop">
    <TopBar @keys="isListingKeys = true" />
    <Splitter layout="vertical" state-key="dusting.rows" state-storage="local" class="rows">
      <SplitterPanel :size="82" :min-size="40">
        <Splitter state-key="dusting.columns" state-storage="local" class="columns">
          <SplitterPanel :size="15" :min-size="10"><PassRail /></SplitterPanel>
          <SplitterPanel :size="55" :min-size="30"><PictureStage ref="stage" /></SplitterPanel>
          <SplitterPanel :size="30" :min-size="20">
            <aside>
              <div class="choice" role="tablist" aria-label="Panel">
                <button
                  v-for="panel in PANELS"
                  :key="panel.id"
                  class="bare"
                  role="tab"
                  :aria-selected="view.panel === panel.id"
                  :class="{ on: view.panel === panel.id }"
                  @click="view.panel = panel.id"
                >
                  {{ panel.name }}
                </button>
              </div>
              <FindingsPanel v-if="view.panel === 'findings'" class="panel" />
              <SheetsPanel v-else-if="view.panel === 'sheets'" class="panel" />
              <ScenePanel v-else-if="view.panel === 'scene'" class="panel" />
              <BudgetPanel v-else class="panel" />
            </aside>
          </SplitterPanel>
        </Splitter>
      </SplitterPanel>
      <SplitterPanel :size="18" :min-size="10"><TrialLedger /></SplitterPanel>
    </Splitter>
    <KeysDialog v-if="isListingKeys" :keys="keys" @closed="isListingKeys = false" />
  </div>
  <p v-else class="missing dim" role="status">Opening {{ code }} …</p>
</template>

<style scoped>
.workspace {
  height: 100%;
  display: grid;
  grid-template-rows: 44px minmax(0, 1fr);
}
.rows,
.columns {
  height: 100%;
  min-height: 0;
}
aside {
  height: 100%;
  background: var(--panel);
  display: grid;
  grid-template-rows: 32px minmax(0, 1fr);
}
.choice {
  display: flex;
  gap: 18px;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
  align-items: center;
}
.choice button {
  color: var(--dim);
  padding: 6px 0;
  font-weight: 600;
}
.choice button.on {
  color: var(--text);
  box-shadow: 0 2px var(--act);
}
.panel {
  min-height: 0;
  overflow: auto;
}
.missing {
  padding: 40px;
}
</style>
