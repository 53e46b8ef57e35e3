<script setup lang="ts">
/** Looking: the picture in the middle, whoever made it; its layers beside it, what is known of it, and whatever it can be held against. */
import Splitter from 'primevue/splitter';
import SplitterPanel from 'primevue/splitterpanel';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import CausesPanel from '../components/look/CausesPanel.vue';
import ComparePanel from '../components/look/ComparePanel.vue';
import CostPanel from '../components/look/CostPanel.vue';
import FramesPanel from '../components/look/FramesPanel.vue';
import HealthPanel from '../components/look/HealthPanel.vue';
import LayerList from '../components/look/LayerList.vue';
import LightsPanel from '../components/look/LightsPanel.vue';
import LookBar from '../components/look/LookBar.vue';
import LooksPanel from '../components/look/LooksPanel.vue';
import LookStage from '../components/look/LookStage.vue';
import ProbePanel from '../components/look/ProbePanel.vue';
import SourceStrip from '../components/look/SourceStrip.vue';
import KeysDialog from '../components/KeysDialog.vue';
import TopBar from '../components/TopBar.vue';
import { PLAIN_LOOK } from '../../core/picture/look.ts';
import { ZONES } from '../../core/picture/noise.ts';
import { percent, radiance } from '../format.ts';
import { pressKey, type Key } from '../keys.ts';
import { desk } from '../picture/desk.ts';
import { useUploads } from '../picture/uploads.ts';
import { filesOfDrop } from '../remote/dropped-files.ts';
import { MODES, PANELS, useLook, type Mode, type Panel } from '../stores/look.ts';
import { useLookProbe } from '../stores/look-probe.ts';
import { useMessages } from '../stores/messages.ts';
import { useShot } from '../stores/shot.ts';

const props = defineProps<{ code: string }>();
const route = useRoute();
const router = useRouter();
const shot = useShot();
const look = useLook();
const probe = useLookProbe();
const uploads = useUploads();
const messages = useMessages();
const stage = ref<InstanceType<typeof LookStage> | null>(null);
const strip = ref<InstanceType<typeof SourceStrip> | null>(null);
const isListingKeys = ref(false);
const isOver = ref(false);

watch(
  () => props.code,
  (code) => {
    look.reset();
    look.fromQuery(route.query);
    shot.open(code);
  },
  { immediate: true },
);
watch(
  () => shot.state && `${shot.state.code} ${shot.state.lookRevision}`,
  () => shot.state?.code === props.code && void look.read(props.code),
  { immediate: true },
);
watch(
  () => look.query,
  (query) => {
    if (route.name === 'look') void router.replace({ query });
  },
);
onMounted(() => {
  void uploads.goOn();
  // Of a sequence the first that came stays on screen while the others come.
  uploads.onArrived(({ code, set, picture }) => code === props.code && set !== look.shown?.set?.id && look.show(`p${picture}`)); // prettier-ignore
});
onBeforeUnmount(() => {
  uploads.onArrived(null);
  shot.close();
});

async function drop(event: DragEvent): Promise<void> {
  isOver.value = false;
  const files = await filesOfDrop(event);
  const taken = await uploads.add(props.code, files);
  if (taken < files.length) messages.failed(`${files.length - taken} of ${files.length} files are no pictures and were left alone.`); // prettier-ignore
}

/** Layers in the order of the list. */
function stepLayer(by: number): void {
  const names = look.layers.map(({ name }) => name);
  if (names.length) look.layer = names[(names.indexOf(look.shownLayer!.name) + by + names.length) % names.length];
}
function stepSource(by: number): void {
  const keys = look.sources.map(({ key }) => key);
  if (keys.length) look.show(keys[(keys.indexOf(look.shown!.key) + by + keys.length) % keys.length]);
}
/** The next picture is held against the one that is shown. */
function stepOther(): void {
  const keys = look.sources.map(({ key }) => key).filter((key) => key !== look.shown?.key);
  if (!keys.length) return;
  const now = keys.indexOf(look.against[0]?.key ?? '');
  look.others = [keys[(now + 1) % keys.length]];
  if (look.mode === 'one' || look.mode === 'passes') look.mode = 'wipe';
  look.panel = 'compare';
}
function setMode(mode: Mode): void {
  if (mode !== 'one' && mode !== 'passes' && !look.against.length) stepOther();
  look.mode = mode;
}
/** A key that is pressed again leaves its mode. */
const toggleMode = (mode: Mode) => setMode(look.mode === mode ? 'one' : mode);
function nextPanel(by: number): void {
  const ids = Object.keys(PANELS) as Panel[];
  look.panel = ids[(ids.indexOf(look.panel) + by + ids.length) % ids.length];
}
const GUIDES = ['none', 'thirds', 'centre', 'safe'] as const;
const BEHIND = ['nothing', 'checker', 'grey'] as const;
const SOLOS = ['colour', 'red', 'green', 'blue', 'alpha', 'luminance'] as const;
const cycled = <T,>(list: readonly T[], now: T) => list[(list.indexOf(now) + 1) % list.length];
const expose = (by: number) => (look.view.exposure = Math.max(-20, Math.min(20, look.view.exposure + by)));

const keys: Key[] = [
  { keys: ['ArrowDown', 'p'], shown: '↓ P', does: 'Next layer', run: () => stepLayer(1) },
  { keys: ['ArrowUp', 'Shift+P', 'Shift+p'], shown: '↑ Shift P', does: 'Layer before', run: () => stepLayer(-1) },
  { keys: ['ArrowRight'], shown: '→', does: 'Next frame of the sequence', run: () => strip.value?.step(1) },
  { keys: ['ArrowLeft'], shown: '←', does: 'Frame before', run: () => strip.value?.step(-1) },
  { keys: [' '], shown: 'Space', does: 'Play the sequence, or stop', run: () => strip.value?.play() },
  { keys: ['b'], shown: 'B', does: 'Back to the beauty', run: () => (look.layer = '') },
  { keys: ['a'], shown: 'A', does: 'All passes beside each other', run: () => toggleMode('passes') },
  { keys: ['e'], shown: 'E', does: 'Each pass by its own brightest, or all at one exposure', run: () => (look.isNormalised = !look.isNormalised) },
  { keys: ['Enter'], shown: 'Enter', does: 'The chosen pass large', run: () => (look.mode = 'one') },
  { keys: ['l'], shown: 'L', does: 'Lift: two stops up, gamma 1.25', run: () => look.toggleLift() },
  { keys: ['['], shown: '[', does: 'Half a stop darker', run: () => expose(-0.5) },
  { keys: [']'], shown: ']', does: 'Half a stop brighter', run: () => expose(0.5) },
  { keys: ['0'], shown: '0', does: 'Looked at as it is', run: () => Object.assign(look.view, { ...PLAIN_LOOK, transform: look.view.transform, space: look.view.space }) },
  { keys: ['c'], shown: 'C', does: 'Holds the next picture against this one', run: stepOther },
  { keys: ['w'], shown: 'W', does: 'Wipe', run: () => toggleMode('wipe') },
  { keys: ['d'], shown: 'D', does: 'Difference', run: () => toggleMode('difference') },
  { keys: ['k'], shown: 'K', does: 'Blink', run: () => toggleMode('blink') },
  { keys: ['t'], shown: 'T', does: 'Side by side', run: () => toggleMode('side') },
  { keys: ['n'], shown: 'N', does: 'Next picture', run: () => stepSource(1) },
  { keys: ['Shift+n'], shown: 'Shift N', does: 'Picture before', run: () => stepSource(-1) },
  { keys: ['o'], shown: 'O', does: 'Next channel alone: red, green, blue, alpha, luminance', run: () => (look.view.solo = cycled(SOLOS, look.view.solo)) },
  { keys: ['s'], shown: 'S', does: 'Luminance in stops', run: () => (look.view.isInStops = !look.view.isInStops) },
  { keys: ['x'], shown: 'X', does: 'Marks on what clips and what is below 0', run: () => (look.view.marks = !look.view.marks) },
  { keys: ['v'], shown: 'V', does: 'What is behind: nothing, checks, grey', run: () => (look.view.behind = cycled(BEHIND, look.view.behind)) },
  { keys: ['u'], shown: 'U', does: 'Guides: thirds, centre, safe areas', run: () => (look.guides = cycled(GUIDES, look.guides)) },
  { keys: ['g'], shown: 'G', does: 'Draw a region', run: () => stage.value?.draw() },
  { keys: ['Shift+g'], shown: 'Shift G', does: 'The whole frame again', run: () => (look.region = null) },
  { keys: ['f'], shown: 'F', does: 'Fit the picture', run: () => stage.value?.fit() },
  { keys: ['1'], shown: '1', does: 'One pixel of the picture on one of the screen', run: () => stage.value?.actual() },
  { keys: ['+', '=', 'Shift++'], shown: '+', does: 'Nearer', run: () => stage.value?.zoom(1.5) },
  { keys: ['-'], shown: '−', does: 'Further away', run: () => stage.value?.zoom(1 / 1.5) },
  { keys: ['Shift+ArrowLeft'], shown: 'Shift ←→↑↓', does: 'Move over the picture', run: () => stage.value?.pan(-0.2, 0) },
  { keys: ['Shift+ArrowRight'], shown: '', does: '', run: () => stage.value?.pan(0.2, 0) },
  { keys: ['Shift+ArrowUp'], shown: '', does: '', run: () => stage.value?.pan(0, -0.2) },
  { keys: ['Shift+ArrowDown'], shown: '', does: '', run: () => stage.value?.pan(0, 0.2) },
  { keys: ['h'], shown: 'H', does: 'Holds the pixel that is read', run: () => (probe.isHeld = !probe.isHeld) },
  { keys: ['.'], shown: '.', does: 'Next panel: probe, health, causes, compare, lights, frames, cost, looks', run: () => nextPanel(1) },
  { keys: [','], shown: ',', does: 'Panel before', run: () => nextPanel(-1) },
  { keys: ['Escape'], shown: 'Esc', does: 'One picture, without a mask', run: () => { look.mode = 'one'; look.mask = null; } },
  { keys: ['?', 'Shift+?'], shown: '?', does: 'This list', run: () => (isListingKeys.value = !isListingKeys.value) },
]; // prettier-ignore
const onKey = (event: KeyboardEvent) => {
  // Enter and Space press the button that has the focus.
  if ((event.key === 'Enter' || event.key === ' ') && (event.target as HTMLElement).tagName === 'BUTTON') return;
  pressKey(event, keys);
};
onMounted(() => window.addEventListener('keydown', onKey));
onBeforeUnmount(() => window.removeEventListener('keydown', onKey));

const read = computed(() => {
  const { values } = probe;
  const layer = look.shownLayer;
  if (!values || !layer) return null;
  const found = layer.channels.flatMap((name) => values.channels.find((one) => one.name === name) ?? []);
  return found.map(({ mean }) => (Number.isInteger(mean) ? String(mean) : radiance(mean))).join('  ');
});
/** What the lift shows, as figures. */
const lifted = ref('');
watch(
  () => (look.isLifted && look.information?.done === 1 && look.shownLayer?.look === 'light' ? `${look.shown!.key} ${look.shownLayer.name}` : ''), // prettier-ignore
  async (now) => {
    lifted.value = '';
    if (!now) return;
    const found = await desk.ask('noise', { key: look.shown!.key, layer: look.shownLayer!.name, region: null }).catch(() => null); // prettier-ignore
    if (!found) return;
    const zones = ZONES.filter((zone) => found.zones[zone].share > 0.001).map((zone) => `${zone} ${found.zones[zone].grain.toFixed(1)}`); // prettier-ignore
    lifted.value = zones.join(', ');
  },
  { immediate: true },
);
const listed = computed(() => keys.filter(({ shown }) => shown));
const title = computed(() => (shot.state ? `${shot.state.code} look · Dusting` : 'Dusting'));
watch(title, (now) => (document.title = now), { immediate: true });
</script>

<template>
  <main v-if="shot.missing" class="missing">
    <h1>{{ shot.missing }}</h1>
    <p class="soft">It may have another code by now. <RouterLink to="/">All shots</RouterLink></p>
  </main>
  <div
    v-else-if="shot.state"
    class="look"
    :class="{ over: isOver }"
    @dragover.prevent="isOver = true"
    @dragleave.self="isOver = false"
    @drop.prevent="drop"
  >
    <TopBar @keys="isListingKeys = true" />
    <Splitter layout="vertical" state-key="dusting.look.rows" state-storage="local" class="rows">
      <SplitterPanel :size="82" :min-size="40">
        <Splitter state-key="dusting.look.columns" state-storage="local" class="columns">
          <SplitterPanel :size="17" :min-size="10"><LayerList /></SplitterPanel>
          <SplitterPanel :size="53" :min-size="30">
            <main class="stage">
              <div class="tabs">
                <button
                  v-for="(name, id) in MODES"
                  :key="id"
                  class="bare"
                  :class="{ on: look.mode === id }"
                  :aria-pressed="look.mode === id"
                  :disabled="id !== 'one' && id !== 'passes' && look.sources.length < 2"
                  @click="setMode(id)"
                >
                  {{ name }}
                </button>
                <span class="gap"></span>
                <label v-if="look.mode === 'passes'" class="dim"
                  ><input v-model="look.isNormalised" type="checkbox" /> each by its own brightest</label
                >
                <span class="num dim">{{ stage ? percent(stage.scale) : '' }}</span>
                <button class="flat" title="Fit the picture (F)" @click="stage?.fit()">Fit</button>
                <button class="flat" title="Draw a region (G)" @click="stage?.draw()">Region</button>
              </div>
              <LookStage ref="stage">
                <template #empty>
                  <div class="none">
                    <h2>Nothing to look at yet</h2>
                    <p class="soft">
                      Drop pictures here: EXR with any layers, HDR, PFM, PNG, JPEG, TIFF; one, many, or a numbered
                      sequence.
                    </p>
                  </div>
                </template>
              </LookStage>
              <LookBar />
              <p class="told num">
                <template v-if="probe.values && probe.at"
                  ><b>{{ probe.values.x }}, {{ probe.values.y }}</b> <span class="values">{{ read }}</span></template
                >
                <span v-else class="dim">Point at a pixel to read it.</span>
                <span v-if="lifted" class="lifted" title="Display steps of 255 after the lift">
                  seen noise: {{ lifted }}
                </span>
              </p>
            </main>
          </SplitterPanel>
          <SplitterPanel :size="30" :min-size="20">
            <aside>
              <div class="choice" role="tablist" aria-label="Panel">
                <button
                  v-for="(name, id) in PANELS"
                  :key="id"
                  class="bare"
                  role="tab"
                  :aria-selected="look.panel === id"
                  :class="{ on: look.panel === id }"
                  @click="look.panel = id"
                >
                  {{ name }}
                </button>
              </div>
              <div class="panel">
                <ProbePanel v-if="look.panel === 'probe'" />
                <HealthPanel v-else-if="look.panel === 'health'" />
                <CausesPanel v-else-if="look.panel === 'causes'" />
                <ComparePanel v-else-if="look.panel === 'compare'" />
                <LightsPanel v-else-if="look.panel === 'lights'" />
                <FramesPanel v-else-if="look.panel === 'frames'" />
                <CostPanel v-else-if="look.panel === 'cost'" />
                <LooksPanel v-else @pin="stage?.pin()" />
              </div>
            </aside>
          </SplitterPanel>
        </Splitter>
      </SplitterPanel>
      <SplitterPanel :size="18" :min-size="8"><SourceStrip ref="strip" /></SplitterPanel>
    </Splitter>
    <KeysDialog v-if="isListingKeys" :keys="listed" @closed="isListingKeys = false" />
  </div>
  <p v-else class="missing dim" role="status">Opening {{ code }} …</p>
</template>

<style scoped>
.look {
  height: 100%;
  display: grid;
  grid-template-rows: 44px minmax(0, 1fr);
}
.look.over {
  box-shadow: inset 0 0 0 2px var(--act);
}
.rows,
.columns {
  height: 100%;
  min-height: 0;
}
.stage {
  height: 100%;
  display: flex;
  flex-direction: column;
  min-width: 0;
  background: var(--stage);
}
.stage > :deep(.viewport) {
  flex: 1;
}
.tabs {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 0 12px;
  height: 32px;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
  font-size: 12px;
  white-space: nowrap;
  overflow: hidden;
  flex: none;
}
.tabs .bare,
.choice button {
  color: var(--dim);
  padding: 6px 0;
}
.tabs .on,
.choice .on {
  color: var(--text);
  box-shadow: 0 2px var(--act);
}
.tabs .bare:disabled {
  opacity: 0.4;
}
.told {
  background: var(--panel);
  font-size: 12px;
  padding: 2px 12px 6px;
  flex: none;
  overflow: hidden;
}
.told {
  display: flex;
  gap: 8px;
}
.lifted {
  margin-left: auto;
}
.values {
  white-space: pre;
}
aside {
  height: 100%;
  background: var(--panel);
  display: grid;
  grid-template-rows: 32px minmax(0, 1fr);
}
.choice {
  display: flex;
  justify-content: space-between;
  gap: 4px;
  padding: 0 10px;
  border-bottom: 1px solid var(--line);
  align-items: center;
  font-size: 12px;
  overflow: hidden;
}
.choice button {
  font-weight: 600;
  outline-offset: -2px;
}
.panel {
  min-height: 0;
  overflow: auto;
}
.none {
  position: absolute;
  inset: 0;
  display: grid;
  place-content: center;
  text-align: center;
  gap: 8px;
}
.missing {
  padding: 40px;
}
</style>
