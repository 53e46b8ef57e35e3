<script setup lang="ts">
/** All shots: where each stands, and the way in for new ones. */
import { useLocalStorage } from '@vueuse/core';
import { FolderInput, Import } from '@lucide/vue';
import Button from 'primevue/button';
import Checkbox from 'primevue/checkbox';
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import InputText from 'primevue/inputtext';
import Message from 'primevue/message';
import MultiSelect from 'primevue/multiselect';
import ProgressBar from 'primevue/progressbar';
import Skeleton from 'primevue/skeleton';
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import type { RenderSummary, ShotSummary } from '../../core/contracts/events.ts';
import { isPictureName } from '../../core/formats/picture-names.ts';
import { count, number, percent, tellPreflight } from '../format.ts';
import { sendFiles, type Sending, type UploadFile } from '../remote/client.ts';
import { filesOfDrop, filesOfInput } from '../remote/dropped-files.ts';
import { followShots } from '../stores/list.ts';
import { useUploads } from '../picture/uploads.ts';
import { useKeys } from '../station.ts';
import { useMessages } from '../stores/messages.ts';
import { usePageTitle } from '../work-done.ts';
import { useSession } from '../stores/session.ts';
import KeysDialog from '../components/shared/KeysDialog.vue';
import PageMenu from '../components/PageMenu.vue';
import FilePick from '../components/shared/FilePick.vue';
import PictureThumb from '../components/shared/PictureThumb.vue';
import SeverityTag from '../components/shared/SeverityTag.vue';
import DiskFigure from '../components/storage/DiskFigure.vue';
import ShotMenu from '../components/storage/ShotMenu.vue';

const { state: all, connected } = followShots();
const showsArchived = ref(false);
const archived = computed(() => all.value?.filter((shot) => shot.archived).length ?? 0);
const find = ref('');
const shots = computed(() => {
  const words = find.value.toLowerCase().split(/\s+/).filter(Boolean);
  const isFound = ({ code, name }: ShotSummary) =>
    words.every((word) => `${code} ${name}`.toLowerCase().includes(word));
  return all.value?.filter((shot) => (showsArchived.value || !shot.archived) && isFound(shot)) ?? null;
});

/** Columns that can be hidden; the choice stays with this browser. */
const COLUMNS = ['Intake', 'Render', 'Findings', 'Pictures', 'Trials', 'Rays', 'Version'];
const columns = useLocalStorage('dusting.list.columns', COLUMNS);
const shows = (name: string) => columns.value.includes(name);
const disk = useTemplateRef('disk');
const session = useSession();
const router = useRouter();
const messages = useMessages();
async function signOut(): Promise<void> {
  await session.signOut().catch((error: unknown) => messages.refused(error));
  if (!session.signedIn) await router.push({ name: 'sign-in' });
}
const uploads = useUploads();
const upload = ref<Sending<{ code: string }> | null>(null);
const sent = ref(0);
const refusal = ref<{ text: string; problems: string[] } | null>(null);
const isOver = ref(false);

async function bringIn(files: UploadFile[]): Promise<void> {
  if (files.length === 0) return;
  // Pictures by themselves start a shot that is looked at; pictures in a shot's folder are its textures.
  if (files.every(({ file }) => isPictureName(file.name))) {
    await uploads.add(null, files);
    return;
  }
  refusal.value = null;
  sent.value = 0;
  upload.value = sendFiles(files, (share) => (sent.value = share));
  try {
    const { code } = await upload.value.done;
    messages.done(`${code} imported. Its first render is running.`);
    await router.push({ name: 'shot', params: { code } });
  } catch (error) {
    const { message, body } = error as {
      message: string;
      body?: { problems: { path: string; value: string; expected: string }[] };
    };
    const problems = body?.problems ?? [];
    refusal.value = {
      text: problems.length ? 'The shot was not imported; nothing was kept. Fix these and import it again:' : message,
      problems: problems.map((p) => `${p.path || '/'} is ${p.value}, expected ${p.expected}`),
    };
  } finally {
    upload.value = null;
  }
}

const { keys, isListingKeys } = useKeys({ find: () => document.getElementById('find-shot')?.focus() });
usePageTitle(ref('Dusting'));
onMounted(() => {
  void uploads.goOn();
  uploads.onArrived(({ code, picture }) => {
    messages.done(`Picture imported into ${code}.`);
    void router.push({ name: 'look', params: { code }, query: { a: `p${picture}` } });
  });
});

onBeforeUnmount(() => uploads.onArrived(null));

const drop = async (event: DragEvent) => {
  isOver.value = false;
  await bringIn(await filesOfDrop(event));
};
const choose = (input: HTMLInputElement) => void bringIn(filesOfInput(input));

function renderTold(render: RenderSummary | null): string {
  if (!render) return 'not rendered';
  const at = `${render.sheet} ${render.width} × ${render.height}`;
  if (render.state === 'active') return `${at}, ${percent(render.progress)}`;
  if (render.state === 'done')
    return `${at}, ${render.samples} samples${render.examined === 'waiting' ? ', examining' : ''}`;
  if (render.state === 'stopped') return `${at}, stopped at ${number(render.samplesDone)} samples`;
  return `${at}, failed`;
}

/** Worst first, then most. */
const RANKS = ['stop', 'caution', 'note'];
const rows = computed(() =>
  (shots.value ?? []).map((shot) => ({
    ...shot,
    rays: shot.render?.rays ?? 0,
    rank: shot.worst ? (RANKS.length - RANKS.indexOf(shot.worst)) * 1e6 + shot.open : shot.open,
    blockers: (shot.preflight?.stop ?? 0) * 1e6 + (shot.preflight?.caution ?? 0),
  })),
);

/** A shot that began with pictures is looked at. */
const placeOf = ({ code, render, pictures }: ShotSummary) => ({
  name: !render && pictures ? 'look' : 'shot',
  params: { code },
});

/** "3, 1 kept". */
const trialsTold = ({ trials, kept }: ShotSummary) =>
  trials ? (kept ? `${trials}, ${kept} kept` : String(trials)) : '';

function openTold(shot: ShotSummary): string {
  if (shot.open > 0) return `${shot.open} open`;
  return shot.render?.examined === 'done' ? 'none' : '';
}
</script>

<template>
  <div
    class="list"
    :class="{ over: isOver }"
    @dragover.prevent="isOver = true"
    @dragleave.self="isOver = false"
    @drop.prevent="drop"
  >
    <header>
      <h1>Dusting</h1>
      <span class="dim slogan">Measure, find the cause, change one thing, prove it.</span>
      <span class="gap"></span>
      <span v-if="!connected" class="tag" role="status">Server not responding; reconnecting …</span>
      <FilePick label="Import a shot folder" folder @pick="choose"
        ><FolderInput :size="15" aria-hidden="true" /> Import folder</FilePick
      >
      <FilePick
        label="Import a zip archive, a scene file or pictures"
        primary
        multiple
        accept=".zip,.glb,.gltf,.obj,.usda,.usd,.exr,.hdr,.pfm,.png,.jpg,.jpeg,.tif,.tiff"
        @pick="choose"
        ><Import :size="15" aria-hidden="true" /> Import files</FilePick
      >
      <PageMenu @keys="isListingKeys = true" />
      <Button v-if="session.needed" label="Sign out" variant="text" severity="secondary" @click="signOut" />
    </header>
    <main id="main" tabindex="-1">
      <div v-if="upload" class="sending" role="status">
        <span>Uploading the shot … {{ percent(sent) }}{{ sent >= 1 ? ', being checked' : '' }}</span>
        <ProgressBar :value="Math.round(100 * sent)" :show-value="false" aria-label="Uploading the shot" />
        <Button severity="secondary" variant="text" @click="upload.cancel()">Cancel</Button>
      </div>
      <div v-if="uploads.waiting.length" class="sending" role="status">
        <span>Uploading {{ uploads.waiting[0].file.name }} … {{ percent(uploads.waiting[0].sent) }}</span>
        <ProgressBar
          :value="Math.round(100 * uploads.waiting[0].sent)"
          :show-value="false"
          aria-label="Uploading pictures"
        />
        <Button severity="secondary" variant="text" @click="uploads.cancel()">Cancel</Button>
      </div>
      <Message v-for="one in uploads.refused" :key="one.key" severity="error" role="alert">
        <p>{{ one.error }}</p>
        <Button severity="secondary" variant="text" @click="uploads.dismiss(one.key)">Dismiss</Button>
      </Message>
      <Message v-if="refusal" severity="error" role="alert">
        <p>{{ refusal.text }}</p>
        <ul>
          <li v-for="problem in refusal.problems" :key="problem">{{ problem }}</li>
        </ul>
        <Button severity="secondary" variant="text" @click="refusal = null">Dismiss</Button>
      </Message>
      <Skeleton v-if="all === null" height="320px" aria-label="Loading the shots" />
      <div v-else-if="all.length === 0" class="empty">
        <h2>No shots yet</h2>
        <p class="soft">
          Drop a shot folder, a scene (glTF, OBJ or USD text, with its files), a zip archive of either, or pictures from
          any renderer here. <RouterLink to="/help/shot-document">How a shot folder is laid out</RouterLink>
        </p>
      </div>
      <template v-else>
        <div class="tools">
          <InputText id="find-shot" v-model="find" placeholder="Find a shot" aria-label="Find a shot" size="small" />
          <MultiSelect
            v-model="columns"
            :options="COLUMNS"
            :max-selected-labels="0"
            selected-items-label="Columns"
            placeholder="Columns"
            aria-label="Columns"
            size="small"
          />
          <label v-if="archived" class="soft"
            ><Checkbox v-model="showsArchived" binary size="small" /> Show {{ archived }} archived</label
          >
          <span class="gap"></span>
          <DiskFigure ref="disk" />
        </div>
        <DataTable
          :value="rows"
          data-key="code"
          row-hover
          removable-sort
          @row-click="({ data }) => router.push(placeOf(data))"
        >
          <template #empty>No shot is called “{{ find }}”.</template>
          <Column header="" class="face">
            <template #body="{ data }">
              <PictureThumb v-if="data.render" :render="data.render" />
            </template>
          </Column>
          <Column field="code" header="Shot" sortable>
            <template #body="{ data }">
              <RouterLink :to="placeOf(data)"
                ><b>{{ data.code }}</b> {{ data.name }}</RouterLink
              >
              <span v-if="data.archived" class="tag"> archived</span>
            </template>
          </Column>
          <Column v-if="shows('Intake')" sort-field="blockers" header="Intake" sortable>
            <template #body="{ data }">
              <RouterLink :to="{ name: 'intake', params: { code: data.code } }" class="soft" @click.stop>{{
                tellPreflight(data.preflight)
              }}</RouterLink>
            </template>
          </Column>
          <Column v-if="shows('Render')" field="render.createdAt" header="Latest render" sortable>
            <template #body="{ data }">
              <span class="soft">{{ renderTold(data.render) }}</span>
              <ProgressBar
                v-if="data.render?.state === 'active'"
                :value="Math.round(100 * data.render.progress)"
                :show-value="false"
                :aria-label="`Rendering ${data.code}`"
              />
            </template>
          </Column>
          <Column v-if="shows('Findings')" sort-field="rank" header="Findings" sortable>
            <template #body="{ data }">
              <SeverityTag v-if="data.worst" :severity="data.worst" />
              <span class="soft open">{{ openTold(data) }}</span>
            </template>
          </Column>
          <Column v-if="shows('Pictures')" field="pictures" header="Pictures" sortable class="right">
            <template #body="{ data }">
              <RouterLink
                v-if="data.pictures"
                :to="{ name: 'look', params: { code: data.code } }"
                class="soft"
                @click.stop
                >{{ data.pictures }}</RouterLink
              >
            </template>
          </Column>
          <Column v-if="shows('Trials')" field="trials" header="Trials" sortable class="right">
            <template #body="{ data }">{{ trialsTold(data) }}</template>
          </Column>
          <Column v-if="shows('Rays')" field="rays" header="Rays" sortable class="right">
            <template #body="{ data }">{{ data.render ? count(data.render.rays) : '' }}</template>
          </Column>
          <Column v-if="shows('Version')" field="version" header="Version" sortable class="right" />
          <Column header="" class="more">
            <template #body="{ data }"
              ><span @click.stop><ShotMenu :shot="data" @changed="disk?.look()" /></span
            ></template>
          </Column>
        </DataTable>
        <p class="dim hint">
          Drop a shot folder, a scene (.gltf, .glb, .obj, .usda, with its files), a zip archive, or pictures anywhere on
          this page to import them.
        </p>
      </template>
    </main>
    <KeysDialog v-if="isListingKeys" :keys="keys" @closed="isListingKeys = false" />
  </div>
</template>

<style scoped>
.list {
  height: 100%;
  display: grid;
  grid-template-rows: 44px minmax(0, 1fr);
}
.list.over main {
  outline: 2px dashed var(--act);
  outline-offset: -8px;
}
header {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 16px;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
}
.slogan {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
main {
  overflow: auto;
  padding: 12px 16px;
}
.tools {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-bottom: 10px;
}
.tools label {
  display: flex;
  gap: 6px;
  align-items: center;
}
:deep(tbody tr) {
  cursor: pointer;
}
:deep(td a) {
  text-decoration: none;
}
.open {
  margin-left: 8px;
}
:deep(.right) {
  text-align: right;
}
:deep(.right .p-datatable-column-header-content) {
  justify-content: flex-end;
}
:deep(.face) {
  width: 130px;
}
:deep(.more) {
  width: 36px;
  padding-inline: 4px;
}
.empty {
  max-width: 560px;
  margin: 60px auto;
  display: grid;
  gap: 8px;
}
.hint {
  margin-top: 12px;
}
.sending {
  background: var(--up);
  padding: 10px 14px;
  margin-bottom: 12px;
  display: flex;
  gap: 14px;
  align-items: center;
}
.sending :deep(.p-progressbar) {
  width: 120px;
}
.p-message {
  margin-bottom: 12px;
}
</style>
