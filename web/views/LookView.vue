<script setup lang="ts">
/** Looking: the picture in the middle, whoever made it; its layers beside it, what is known of it, and whatever it can be held against. */
import Checkbox from 'primevue/checkbox';
import SelectButton from 'primevue/selectbutton';
import Tab from 'primevue/tab';
import TabList from 'primevue/tablist';
import TabPanel from 'primevue/tabpanel';
import TabPanels from 'primevue/tabpanels';
import Tabs from 'primevue/tabs';
import Button from 'primevue/button';
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
import KeysDialog from '../components/shared/KeysDialog.vue';
import TopBar from '../components/TopBar.vue';
import { PLAIN_LOOK } from '../../core/picture/look.ts';
import { ZONES } from '../../core/picture/noise.ts';
import { percent, radiance } from '../format.ts';
import { useAddress, useAlone, useKeys } from '../station.ts';
import { useCommands, type Command } from '../stores/commands.ts';
import { usePageTitle } from '../work-done.ts';
import { desk } from '../picture/desk.ts';
import { useUploads } from '../picture/uploads.ts';
import { filesOfDrop } from '../remote/dropped-files.ts';
import { MODES, PANELS, useLook, type Mode, type Panel } from '../stores/look.ts';
import { useProbe } from '../stores/probe.ts';
import { useMessages } from '../stores/messages.ts';
import { useShot } from '../stores/shot.ts';

const props = defineProps<{ code: string }>();
const route = useRoute();
const router = useRouter();
const shot = useShot();
const look = useLook();
const probe = useProbe();
const uploads = useUploads();
const messages = useMessages();
const stage = ref<InstanceType<typeof LookStage> | null>(null);
const strip = ref<InstanceType<typeof SourceStrip> | null>(null);
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
  if (taken < files.length) messages.failed(`${files.length - taken} of ${files.length} files are not pictures and were skipped.`); // prettier-ignore
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

const { isAlone, aloneKeys } = useAlone();
const { keys, isListingKeys } = useKeys({
  ...aloneKeys,
  boost: () => look.toggleBoost(),
  darker: () => expose(-0.5),
  brighter: () => expose(0.5),
  plain: () => Object.assign(look.view, { ...PLAIN_LOOK, transform: look.view.transform, space: look.view.space }),
  region: () => stage.value?.draw(),
  noRegion: () => (look.region = null),
  fit: () => stage.value?.fit(),
  actual: () => stage.value?.actual(),
  nearer: () => stage.value?.zoom(1.5),
  further: () => stage.value?.zoom(1 / 1.5),
  panLeft: () => stage.value?.pan(-0.2, 0),
  panRight: () => stage.value?.pan(0.2, 0),
  panUp: () => stage.value?.pan(0, -0.2),
  panDown: () => stage.value?.pan(0, 0.2),
  guides: () => (look.guides = cycled(GUIDES, look.guides)),
  nextPass: () => stepLayer(1),
  passBefore: () => stepLayer(-1),
  beauty: () => (look.layer = ''),
  showAll: () => toggleMode('passes'),
  normalise: () => (look.isNormalised = !look.isNormalised),
  large: () => (look.mode = 'one'),
  channel: () => (look.view.solo = cycled(SOLOS, look.view.solo)),
  stops: () => (look.view.isInStops = !look.view.isInStops),
  marks: () => (look.view.marks = !look.view.marks),
  behind: () => (look.view.behind = cycled(BEHIND, look.view.behind)),
  hold: () => (probe.isHeld = !probe.isHeld),
  next: () => stepSource(1),
  before: () => stepSource(-1),
  wipe: () => toggleMode('wipe'),
  compare: stepOther,
  difference: () => toggleMode('difference'),
  blink: () => toggleMode('blink'),
  side: () => toggleMode('side'),
  nextFrame: () => strip.value?.step(1),
  frameBefore: () => strip.value?.step(-1),
  play: () => strip.value?.play(),
  nextPanel: () => nextPanel(1),
  panelBefore: () => nextPanel(-1),
  leave: () => {
    look.mode = 'one';
    look.mask = null;
  },
  otherStation: () => void router.push({ name: 'shot', params: { code: props.code } }),
  undo: () => void shot.undo(),
  redo: () => void shot.redo(),
});
useAddress({
  name: 'look',
  query: () => look.query,
  fromQuery: (query) => look.fromQuery(query),
  steps: ['a', 'b', 'mode', 'layer', 'panel'],
});
useCommands().provide(() => [
  ...look.layers.map(({ name, role }): Command => ({ id: `layer ${name}`, group: 'Passes', name: look.layerTitle(name), detail: role, run: () => (look.layer = name) })),
  ...look.sources.map(({ key, label, told }): Command => ({ id: `source ${key}`, group: 'Go to', name: label, detail: told, run: () => look.show(key) })),
  ...Object.entries(PANELS).map(([id, name]): Command => ({ id: `panel ${id}`, group: 'Go to', name: `${name} panel`, run: () => (look.panel = id as Panel) })),
]); // prettier-ignore

const read = computed(() => {
  const { values } = probe;
  const layer = look.shownLayer;
  if (!values || !layer) return null;
  const found = layer.channels.flatMap((name) => values.channels.find((one) => one.name === name) ?? []);
  return found.map(({ mean }) => (Number.isInteger(mean) ? String(mean) : radiance(mean))).join('  ');
});
/** What the boost shows, as figures. */
const boosted = ref('');
watch(
  () => (look.isBoosted && look.information?.done === 1 && look.shownLayer?.look === 'light' ? `${look.shown!.key} ${look.shownLayer.name}` : ''), // prettier-ignore
  async (now) => {
    boosted.value = '';
    if (!now) return;
    const found = await desk.ask('noise', { key: look.shown!.key, layer: look.shownLayer!.name, region: null }).catch(() => null); // prettier-ignore
    if (!found) return;
    const zones = ZONES.filter((zone) => found.zones[zone].share > 0.001).map((zone) => `${zone} ${found.zones[zone].grain.toFixed(1)}`); // prettier-ignore
    boosted.value = zones.join(', ');
  },
  { immediate: true },
);
/** Comparing takes a second picture. */
const modes = computed(() =>
  Object.entries(MODES).map(([id, name]) => ({
    id,
    name,
    isDisabled: id !== 'one' && id !== 'passes' && look.sources.length < 2,
  })),
);
usePageTitle(computed(() => (shot.state ? `${shot.state.code} look · Dusting` : 'Dusting')));
</script>

<template>
  <main v-if="shot.missing" class="missing">
    <h1>{{ shot.missing }}</h1>
    <p class="soft">It may have another code by now. <RouterLink to="/">All shots</RouterLink></p>
  </main>
  <div
    v-else-if="shot.state"
    class="look"
    :class="{ over: isOver, alone: isAlone }"
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
            <main id="main" tabindex="-1" class="stage">
              <div class="tabs">
                <SelectButton
                  :model-value="look.mode"
                  :options="modes"
                  option-label="name"
                  option-value="id"
                  option-disabled="isDisabled"
                  :allow-empty="false"
                  aria-label="View"
                  @update:model-value="setMode($event)"
                />
                <span class="gap"></span>
                <label v-if="look.mode === 'passes'" class="dim"
                  ><Checkbox v-model="look.isNormalised" binary size="small" /> normalise</label
                >
                <span class="num dim">{{ stage ? percent(stage.scale) : '' }}</span>
                <Button severity="secondary" variant="text" title="Fit the picture (F)" @click="stage?.fit()"
                  >Fit</Button
                >
                <Button severity="secondary" variant="text" title="Draw a region (G)" @click="stage?.draw()"
                  >Region</Button
                >
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
                <span
                  v-if="boosted"
                  class="boosted"
                  title="Of 255, with shadows boosted: under 1 unseen, 2 hard to see, 5 plain"
                >
                  noise {{ boosted }}
                </span>
              </p>
            </main>
          </SplitterPanel>
          <SplitterPanel :size="30" :min-size="20">
            <aside>
              <Tabs v-model:value="look.panel" :show-navigators="false" lazy class="panels many">
                <TabList aria-label="Panel">
                  <Tab v-for="(name, id) in PANELS" :key="id" :value="id">{{ name }}</Tab>
                </TabList>
                <TabPanels>
                  <TabPanel value="probe"><ProbePanel /></TabPanel>
                  <TabPanel value="health"><HealthPanel /></TabPanel>
                  <TabPanel value="causes"><CausesPanel /></TabPanel>
                  <TabPanel value="compare"><ComparePanel /></TabPanel>
                  <TabPanel value="lights"><LightsPanel /></TabPanel>
                  <TabPanel value="frames"><FramesPanel /></TabPanel>
                  <TabPanel value="cost"><CostPanel /></TabPanel>
                  <TabPanel value="looks"><LooksPanel @pin="stage?.pin()" /></TabPanel>
                </TabPanels>
              </Tabs>
            </aside>
          </SplitterPanel>
        </Splitter>
      </SplitterPanel>
      <SplitterPanel :size="18" :min-size="8"><SourceStrip ref="strip" /></SplitterPanel>
    </Splitter>
    <KeysDialog v-if="isListingKeys" :keys="keys" @closed="isListingKeys = false" />
  </div>
  <p v-else class="missing dim" role="status">Opening {{ code }} …</p>
</template>

<style scoped>
.look {
  height: 100%;
  display: grid;
  grid-template: 44px minmax(0, 1fr) / minmax(0, 1fr);
}
.look.over {
  box-shadow: inset 0 0 0 2px var(--act);
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
/* Names of passes are read whole, however narrow the window. */
.columns > :deep(.p-splitterpanel:first-child) {
  min-width: 208px;
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
  flex-wrap: wrap;
  gap: 0 12px;
  align-items: center;
  padding: 0 12px;
  min-height: 32px;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
  font-size: var(--small);
  white-space: nowrap;
  overflow: hidden;
  flex: none;
}
.told {
  background: var(--panel);
  font-size: var(--small);
  padding: 2px 12px 6px;
  flex: none;
  overflow: hidden;
}
.told {
  display: flex;
  gap: 8px;
}
.boosted {
  margin-left: auto;
}
.values {
  white-space: pre;
}
aside {
  height: 100%;
  background: var(--panel);
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
