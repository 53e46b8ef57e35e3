<script setup lang="ts">
/** The first station of a shot: whether it can be sent at all. The picture stays as a corner. */
import InputText from 'primevue/inputtext';
import Button from 'primevue/button';
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { useRoute, useRouter, type LocationQuery } from 'vue-router';
import CameInList from '../components/intake/CameInList.vue';
import ChainTree from '../components/intake/ChainTree.vue';
import CheckDetail from '../components/intake/CheckDetail.vue';
import CheckTable from '../components/intake/CheckTable.vue';
import FileTable from '../components/intake/FileTable.vue';
import FilesDetail from '../components/intake/FilesDetail.vue';
import LossDetail from '../components/intake/LossDetail.vue';
import ProfilePick from '../components/intake/ProfilePick.vue';
import TargetPanel from '../components/intake/TargetPanel.vue';
import LogDetail from '../components/intake/LogDetail.vue';
import LogPanel from '../components/intake/LogPanel.vue';
import KeysDialog from '../components/shared/KeysDialog.vue';
import PictureThumb from '../components/shared/PictureThumb.vue';
import TopBar from '../components/TopBar.vue';
import { countSeverities, severityName } from '../severity-words.ts';
import { SECTIONS, useHeadline, type Section } from '../intake-headline.ts';
import { useAddress, useKeys } from '../station.ts';
import { useCommands, type Command } from '../stores/commands.ts';
import { usePageTitle } from '../work-done.ts';
import { filesOfDrop } from '../remote/dropped-files.ts';
import { useIntake } from '../stores/intake.ts';
import { useProfiles } from '../stores/profiles.ts';
import { useLogs } from '../stores/logs.ts';
import { useShot } from '../stores/shot.ts';

const props = defineProps<{ code: string }>();
const route = useRoute();
const router = useRouter();
const shot = useShot();
const store = useIntake();
const logs = useLogs();
const profiles = useProfiles();
const table = ref<InstanceType<typeof CheckTable> | null>(null);
const find = ref('');
const showAll = ref(false);

const section = ref<Section>(SECTIONS.find((one) => one === route.query.section) ?? 'preflight');
const chosen = ref<string | null>(typeof route.query.check === 'string' ? route.query.check : null);
const chosenFile = ref<string | null>(null);
const chosenLoss = ref<string | null>(null);
const asChain = ref(false);

watch(
  () => props.code,
  (code) => shot.open(code),
  { immediate: true },
);
onBeforeUnmount(() => shot.close());
if (Number(route.query.log)) logs.logId = Number(route.query.log);

const intake = computed(() => store.intake);
const check = computed(() => intake.value?.checks.find(({ id }) => id === chosen.value) ?? null);
const file = computed(() => intake.value?.files.find(({ path }) => path === chosenFile.value) ?? null);
const fit = computed(() => intake.value?.fit ?? null);
const loss = computed(
  () => fit.value?.losses.find(({ id }) => id === chosenLoss.value) ?? fit.value?.losses[0] ?? null,
);
const isChecking = computed(() => intake.value?.state === 'waiting' || intake.value === null);

const { headline, summary } = useHeadline(section, isChecking);
const sections = computed(() => [
  {
    id: 'log' as const,
    name: 'Log',
    told: logs.stops ? countSeverities({ stop: logs.stops, caution: 0 }) : String(logs.logs?.length || ''),
  },
  { id: 'preflight' as const, name: 'Preflight', told: countSeverities(store.counts).split(',')[0] },
  { id: 'files' as const, name: 'Files', told: String(store.broken || '') },
  { id: 'target' as const, name: 'Target', told: String(fit.value?.losses.length || '') },
  { id: 'came-in' as const, name: 'Import', told: String(intake.value?.cameIn?.notUnderstood.length || '') },
]);

/** Files are dropped where files are listed; a log has a place of its own. */
const isOver = ref(false);
function overFiles(event: DragEvent): void {
  if (section.value !== 'files') return;
  event.preventDefault();
  isOver.value = true;
}
async function dropFiles(event: DragEvent): Promise<void> {
  if (section.value !== 'files') return;
  event.preventDefault();
  isOver.value = false;
  await store.bringFiles(await filesOfDrop(event));
}

function repairShown(): void {
  if (section.value === 'preflight' && check.value?.repair) void store.repair(check.value.id, check.value.repair.label);
  if (section.value === 'target' && loss.value?.repair)
    void store.repair(`target:${loss.value.id}`, loss.value.repair.label);
}

const { keys, isListingKeys } = useKeys({
  next: () => table.value?.step(1),
  before: () => table.value?.step(-1),
  repair: repairShown,
  chain: () => (asChain.value = !asChain.value),
  showAll: () => (showAll.value = !showAll.value),
  nextPanel: () => stepSection(1),
  panelBefore: () => stepSection(-1),
  find: () => document.getElementById('intake-find')?.focus(),
  otherStation: () => void router.push({ name: 'shot', params: { code: props.code } }),
  undo: () => void shot.undo(),
  redo: () => void shot.redo(),
});
function stepSection(by: number): void {
  section.value = SECTIONS[(SECTIONS.indexOf(section.value) + by + SECTIONS.length) % SECTIONS.length];
}
const query = computed(() => {
  const out: Record<string, string> = {};
  if (section.value !== 'preflight') out.section = section.value;
  if (section.value === 'log' && logs.logId !== null) out.log = String(logs.logId);
  if (section.value === 'preflight' && chosen.value) out.check = chosen.value;
  return out;
});
function fromQuery(from: LocationQuery): void {
  section.value = SECTIONS.find((one) => one === from.section) ?? 'preflight';
  chosen.value = typeof from.check === 'string' ? from.check : null;
  if (Number(from.log)) logs.logId = Number(from.log);
}
useAddress({ name: 'intake', query: () => query.value, fromQuery, steps: ['section'] });
useCommands().provide(() => [
  ...(intake.value?.checks ?? []).map(({ id, title, state }): Command => ({ id: `check ${id}`, group: 'Findings', name: title, detail: severityName(state), run: () => { section.value = 'preflight'; showAll.value = true; chosen.value = id; } })),
  ...sections.value.map(({ id, name }): Command => ({ id: `section ${id}`, group: 'Go to', name, run: () => (section.value = id) })),
]); // prettier-ignore

usePageTitle(computed(() => `Intake of ${shot.state?.code ?? props.code} · Dusting`));
</script>

<template>
  <main v-if="shot.missing" class="missing">
    <h1>{{ shot.missing }}</h1>
    <p class="soft">It may have another code by now. <RouterLink to="/">All shots</RouterLink></p>
  </main>
  <div v-else-if="shot.state" class="intake">
    <TopBar @keys="isListingKeys = true" />
    <div class="columns">
      <nav aria-label="Intake">
        <Button
          v-for="one in sections"
          :key="one.id"
          unstyled
          class="bare"
          :class="{ on: section === one.id }"
          :aria-pressed="section === one.id"
          @click="section = one.id"
        >
          {{ one.name }} <span class="num">{{ one.told }}</span>
        </Button>
        <template v-if="intake?.state === 'done'">
          <h2>Report</h2>
          <p class="reports">
            <a
              v-for="[kind, name] in [
                ['html', 'Page'],
                ['md', 'Markdown'],
                ['csv', 'CSV'],
                ['json', 'JSON'],
              ]"
              :key="kind"
              :href="`/api/shots/${code}/preflight.${kind}`"
              download
              >{{ name }}</a
            >
          </p>
        </template>
      </nav>
      <main
        id="main"
        tabindex="-1"
        :class="{ over: isOver }"
        @dragover="overFiles"
        @dragleave.self="isOver = false"
        @drop="dropFiles"
      >
        <header>
          <div>
            <h1 v-if="isChecking && section === 'preflight'" role="status">
              Checking version {{ shot.state.head.number }} …
            </h1>
            <h1 v-else-if="intake?.state === 'failed' && section === 'preflight'">This version could not be checked</h1>
            <h1 v-else>{{ headline }}</h1>
            <p class="soft">{{ summary }}</p>
          </div>
          <label class="find">
            <InputText
              id="intake-find"
              v-model="find"
              type="search"
              size="small"
              placeholder="Find a check, file, object"
              aria-label="Find a check, a file or an object"
              @keydown.esc="($event.target as HTMLElement).blur()"
            />
            <kbd>/</kbd>
          </label>
          <Button
            v-if="section === 'preflight'"
            severity="secondary"
            variant="text"
            :aria-pressed="showAll"
            @click="showAll = !showAll"
          >
            All checks
          </Button>
          <Button
            v-if="section === 'files'"
            severity="secondary"
            variant="text"
            :aria-pressed="asChain"
            @click="asChain = !asChain"
          >
            As a chain
          </Button>
        </header>
        <div v-if="section === 'preflight' || section === 'target'" class="against">
          <ProfilePick
            v-if="section === 'preflight'"
            kind="show"
            label="Show"
            none="No show"
            :chosen="profiles.chosen.show"
            @choose="profiles.choose({ show: $event })"
          />
          <ProfilePick
            v-else
            kind="target"
            label="Target"
            none="none"
            :chosen="profiles.chosen.target"
            @choose="profiles.choose({ target: $event })"
          />
          <span class="gap"></span>
          <Button
            v-if="section === 'preflight' && store.repairs > 1 && !isChecking"
            severity="secondary"
            variant="outlined"
            @click="store.repair(null, `${store.repairs} repairs`)"
          >
            Apply all {{ store.repairs }} repairs
          </Button>
        </div>
        <div v-else></div>
        <LogPanel v-if="section === 'log'" :find="find" />
        <template v-else-if="intake">
          <CheckTable
            v-if="section === 'preflight'"
            ref="table"
            v-model:chosen="chosen"
            :checks="intake.checks"
            :find="find"
            :all="showAll"
          />
          <template v-else-if="section === 'files'">
            <ChainTree v-if="asChain" v-model:chosen="chosenFile" :nodes="intake.chain" :find="find" />
            <FileTable v-else v-model:chosen="chosenFile" :files="store.files" :find="find" />
          </template>
          <TargetPanel
            v-else-if="section === 'target'"
            :chosen="loss?.id ?? null"
            :fit="fit"
            :find="find"
            @update:chosen="chosenLoss = $event"
          />
          <CameInList v-else :came-in="intake.cameIn" :find="find" />
        </template>
      </main>
      <aside>
        <CheckDetail v-if="section === 'preflight' && check" class="detail" :check="check" @repair="repairShown" />
        <LogDetail v-else-if="section === 'log' && logs.kind" class="detail" :kind="logs.kind" />
        <FilesDetail v-else-if="section === 'files'" class="detail" :file="file" />
        <LossDetail
          v-else-if="section === 'target' && loss"
          :key="loss.id"
          class="detail"
          :loss="loss"
          :target="fit!.target"
          @repair="repairShown"
        />
        <p v-else-if="section === 'came-in' && intake?.cameIn" class="detail soft">
          Made from {{ intake.cameIn.file }}, {{ intake.cameIn.format }}.
        </p>
        <span v-else class="detail"></span>
        <RouterLink class="corner" :to="{ name: 'shot', params: { code } }" aria-label="To the picture">
          <PictureThumb v-if="shot.newestBase" :render="shot.newestBase" />
        </RouterLink>
      </aside>
    </div>
    <KeysDialog v-if="isListingKeys" :keys="keys" @closed="isListingKeys = false" />
  </div>
  <p v-else class="missing dim" role="status">Opening {{ code }} …</p>
</template>

<style scoped>
.intake {
  height: 100%;
  display: grid;
  grid-template: 44px minmax(0, 1fr) / minmax(0, 1fr);
}
.columns {
  display: grid;
  grid-template-columns: 176px minmax(0, 1fr) 340px;
  min-height: 0;
}
@media (max-width: 1180px) {
  .columns {
    grid-template-columns: 150px minmax(0, 1fr) 280px;
  }
}
nav {
  background: var(--panel);
  border-right: 1px solid var(--line);
  padding: 8px 0;
}
nav button {
  display: flex;
  justify-content: space-between;
  width: 100%;
  padding: 6px 12px;
  color: var(--soft);
}
nav button.on {
  color: var(--text);
  background: var(--up);
  box-shadow: inset 2px 0 var(--act);
}
nav h2 {
  font-size: var(--small);
  font-weight: 400;
  color: var(--dim);
  padding: 16px 12px 4px;
}
.reports {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  padding: 0 12px;
}
.reports a {
  color: var(--soft);
}
main {
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr);
  min-height: 0;
}
main.over {
  outline: 2px dashed var(--act);
  outline-offset: -6px;
}
.against {
  display: flex;
  align-items: center;
  padding: 6px 16px;
  border-bottom: 1px solid var(--line);
}
main > header {
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 12px 16px;
  border-bottom: 1px solid var(--line);
}
main > header > div {
  flex: 1;
}
.find {
  position: relative;
}
.find :deep(input) {
  width: 210px;
  padding-right: 24px;
}
.find kbd {
  position: absolute;
  right: 6px;
  top: 6px;
}
aside {
  background: var(--panel);
  border-left: 1px solid var(--line);
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  min-height: 0;
}
.detail {
  overflow: auto;
}
p.detail {
  padding: 12px 14px;
}
.corner {
  display: block;
  padding: 12px;
  background: var(--stage);
  border-top: 1px solid var(--line);
}
.missing {
  padding: 40px;
}
</style>
