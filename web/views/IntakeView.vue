<script setup lang="ts">
/** The first station of a shot: whether it can be sent at all. The picture stays as a corner. */
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
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
import KeysDialog from '../components/KeysDialog.vue';
import PictureThumb from '../components/PictureThumb.vue';
import TopBar from '../components/TopBar.vue';
import { number } from '../format.ts';
import { pressKey, type Key } from '../keys.ts';
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
const search = ref<HTMLInputElement | null>(null);
const isListingKeys = ref(false);
const find = ref('');
const showAll = ref(false);

const SECTIONS = ['log', 'preflight', 'files', 'target', 'came-in'] as const;
type Section = (typeof SECTIONS)[number];
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
watch([section, chosen, () => logs.logId], () => {
  const query: Record<string, string> = {};
  if (section.value !== 'preflight') query.section = section.value;
  if (section.value === 'log' && logs.logId !== null) query.log = String(logs.logId);
  if (section.value === 'preflight' && chosen.value) query.check = chosen.value;
  if (route.name === 'intake') void router.replace({ query });
});

const intake = computed(() => store.intake);
const check = computed(() => intake.value?.checks.find(({ id }) => id === chosen.value) ?? null);
const file = computed(() => intake.value?.files.find(({ path }) => path === chosenFile.value) ?? null);
const fit = computed(() => intake.value?.fit ?? null);
const loss = computed(
  () => fit.value?.losses.find(({ id }) => id === chosenLoss.value) ?? fit.value?.losses[0] ?? null,
);
const repairs = computed(() => intake.value?.checks.filter(({ repair }) => repair).length ?? 0);
const broken = computed(() => store.files.filter(({ state }) => state !== 'ok').length);
const isChecking = computed(() => intake.value?.state === 'waiting' || intake.value === null);

/** What the list on screen comes to, in a sentence. */
const headline = computed(() => {
  const { stop, caution } = store.counts;
  if (section.value === 'log') {
    if (logs.logs?.length && logs.stops === 0) return 'No log of this shot tells of a stop';
    return logs.stops
      ? `${logs.stops} of ${logs.logs!.length} logs ${logs.stops === 1 ? 'tells' : 'tell'} of a stop`
      : 'Logs';
  }
  if (section.value === 'files')
    return broken.value
      ? `${many(broken.value, 'file')} will not travel as ${broken.value === 1 ? 'it is' : 'they are'}`
      : 'Every file travels';
  if (section.value === 'target') {
    if (!fit.value) return 'For no renderer in particular';
    const n = fit.value.losses.length;
    return n
      ? `${many(n, 'thing')} of this shot ${fit.value.target} does not do`
      : `${fit.value.target} does all of this shot`;
  }
  if (section.value === 'came-in') return 'How the shot came in';
  if (stop) return `${many(stop, 'thing')} ${stop === 1 ? 'stops' : 'stop'} this shot from being sent`;
  if (caution) return `Nothing stops this shot; ${many(caution, 'thing')} ${caution === 1 ? 'wants' : 'want'} a look`;
  return 'This shot is clear to be sent';
});
const many = (n: number, what: string): string => `${n === 1 ? 'One' : number(n)} ${what}${n === 1 ? '' : 's'}`;
const summary = computed(() => {
  if (section.value === 'files')
    return `${store.files.length} files, ${number((intake.value?.totalBytes ?? 0) / 2 ** 20, 1)} MB.`;
  if (section.value !== 'preflight') return '';
  if (intake.value?.state === 'failed') return intake.value.error ?? '';
  if (isChecking.value) return 'Every check on every object; this takes a few seconds.';
  const { stop, caution, clear, 'not-run': notRun } = store.counts;
  const all = stop + caution + clear + notRun;
  const n = repairs.value;
  const offered = n ? ` ${n} ${n === 1 ? 'has a repair' : 'have a repair'} that can be undone.` : '';
  const took = number(intake.value?.seconds ?? 0, 1);
  return `${all} checks in ${took} s: ${stop} stop, ${caution} caution, ${clear} clear, ${notRun} could not run.${offered}`;
});
const sections = computed(() => [
  { id: 'log' as const, name: 'Log', told: logs.stops ? `${logs.stops} stop` : String(logs.logs?.length || '') },
  { id: 'preflight' as const, name: 'Preflight', told: told(store.counts.stop, store.counts.caution) },
  { id: 'files' as const, name: 'Files', told: broken.value ? String(broken.value) : '' },
  { id: 'target' as const, name: 'Target', told: String(fit.value?.losses.length || '') },
  { id: 'came-in' as const, name: 'As it came in', told: String(intake.value?.cameIn?.notUnderstood.length || '') },
]);
const told = (stops: number, cautions: number) => [stops, cautions].filter(Boolean).join(' · ');

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

const keys: Key[] = [
  { keys: ['j', 'ArrowDown'], shown: 'J', does: 'Next check', run: () => table.value?.step(1) },
  { keys: ['k', 'ArrowUp'], shown: 'K', does: 'Check before', run: () => table.value?.step(-1) },
  { keys: ['r'], shown: 'R', does: 'Carry out the repair that is shown', run: repairShown },
  { keys: ['c'], shown: 'C', does: 'Files as a table or as a chain', run: () => (asChain.value = !asChain.value) },
  { keys: ['a'], shown: 'A', does: 'Show checks that are clear, too', run: () => (showAll.value = !showAll.value) },
  { keys: ['s'], shown: 'S', does: 'Next list: log, preflight, files, target, as it came in', run: () => (section.value = SECTIONS[(SECTIONS.indexOf(section.value) + 1) % SECTIONS.length]) },
  { keys: ['/'], shown: '/', does: 'Find a check, a file, an object', run: () => search.value?.focus() },
  { keys: ['Ctrl+z'], shown: 'Ctrl Z', does: 'Undo the last kept change', run: () => void shot.undo() },
  { keys: ['Ctrl+Shift+z', 'Ctrl+y'], shown: 'Ctrl Shift Z', does: 'Redo it', run: () => void shot.redo() },
  { keys: ['?', 'Shift+?'], shown: '?', does: 'This list', run: () => (isListingKeys.value = !isListingKeys.value) },
]; // prettier-ignore
const onKey = (event: KeyboardEvent) => pressKey(event, keys);
onMounted(() => window.addEventListener('keydown', onKey));
onBeforeUnmount(() => window.removeEventListener('keydown', onKey));

const title = computed(() => `Intake of ${shot.state?.code ?? props.code} · Dusting`);
watch(title, (now) => (document.title = now), { immediate: true });
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
        <button
          v-for="one in sections"
          :key="one.id"
          class="bare"
          :class="{ on: section === one.id }"
          :aria-pressed="section === one.id"
          @click="section = one.id"
        >
          {{ one.name }} <span class="num">{{ one.told }}</span>
        </button>
        <template v-if="intake?.state === 'done'">
          <h3>Report</h3>
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
      <main :class="{ over: isOver }" @dragover="overFiles" @dragleave.self="isOver = false" @drop="dropFiles">
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
            <input
              ref="search"
              v-model="find"
              type="search"
              placeholder="Find a check, file, object"
              aria-label="Find a check, a file or an object"
              @keydown.esc="search?.blur()"
            />
            <kbd>/</kbd>
          </label>
          <button
            v-if="section === 'preflight'"
            class="flat"
            :class="{ on: showAll }"
            :aria-pressed="showAll"
            @click="showAll = !showAll"
          >
            All checks
          </button>
          <button
            v-if="section === 'files'"
            class="flat"
            :class="{ on: asChain }"
            :aria-pressed="asChain"
            @click="asChain = !asChain"
          >
            As a chain
          </button>
        </header>
        <div v-if="section === 'preflight' || section === 'target'" class="against">
          <ProfilePick
            v-if="section === 'preflight'"
            kind="show"
            label="Expected by"
            none="Without a show"
            :chosen="profiles.chosen.show"
            @choose="profiles.choose({ show: $event })"
          />
          <ProfilePick
            v-else
            kind="target"
            label="For"
            none="no renderer in particular"
            :chosen="profiles.chosen.target"
            @choose="profiles.choose({ target: $event })"
          />
          <span class="gap"></span>
          <button
            v-if="section === 'preflight' && repairs > 1 && !isChecking"
            class="plain"
            @click="store.repair(null, `${repairs} repairs`)"
          >
            Carry out all {{ repairs }} repairs
          </button>
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
  grid-template-rows: 44px minmax(0, 1fr);
}
.columns {
  display: grid;
  grid-template-columns: 176px minmax(0, 1fr) 340px;
  min-height: 0;
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
nav h3 {
  font-size: 11px;
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
.find input {
  font: inherit;
  color: var(--text);
  background: none;
  border: 0;
  border-bottom: 1px solid #777;
  width: 190px;
  padding: 3px 22px 3px 0;
}
.find input::placeholder {
  color: var(--dim);
}
.find kbd {
  position: absolute;
  right: 0;
  top: 4px;
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
