<script setup lang="ts">
import Button from 'primevue/button';
import Checkbox from 'primevue/checkbox';
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import type { RenderSummary, ShotSummary } from '../../core/contracts/events.ts';
import { isPictureName } from '../../core/formats/picture-names.ts';
import { count, number, percent, tellPreflight } from '../format.ts';
import { sendFiles, type Sending, type UploadFile } from '../remote/client.ts';
import { filesOfDrop, filesOfInput } from '../remote/dropped-files.ts';
import { followShots } from '../stores/list.ts';
import { useUploads } from '../picture/uploads.ts';
import { useMessages } from '../stores/messages.ts';
import { useSession } from '../stores/session.ts';
import PictureThumb from '../components/PictureThumb.vue';
import DiskFigure from '../components/storage/DiskFigure.vue';
import ShotMenu from '../components/storage/ShotMenu.vue';

const { state: all, connected } = followShots();
const showsArchived = ref(false);
const archived = computed(() => all.value?.filter((shot) => shot.archived).length ?? 0);
const shots = computed(() => all.value?.filter((shot) => showsArchived.value || !shot.archived) ?? null);
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
    messages.done(`${code} came in. Its first render has begun.`);
    await router.push({ name: 'shot', params: { code } });
  } catch (error) {
    const { message, body } = error as {
      message: string;
      body?: { problems: { path: string; value: string; expected: string }[] };
    };
    const problems = body?.problems ?? [];
    refusal.value = {
      text: problems.length ? 'The shot was not brought in; nothing was kept. Mend these and send it again:' : message,
      problems: problems.map((p) => `${p.path || '/'} is ${p.value}, expected ${p.expected}`),
    };
  } finally {
    upload.value = null;
  }
}

onMounted(() => {
  void uploads.goOn();
  uploads.onArrived(({ code, picture }) => {
    messages.done(`The picture came in, into ${code}.`);
    void router.push({ name: 'look', params: { code }, query: { a: `p${picture}` } });
  });
});

onBeforeUnmount(() => uploads.onArrived(null));

const drop = async (event: DragEvent) => {
  isOver.value = false;
  await bringIn(await filesOfDrop(event));
};
const choose = (event: Event) => {
  const input = event.target as HTMLInputElement;
  const files = filesOfInput(input);
  input.value = '';
  void bringIn(files);
};

function renderTold(render: RenderSummary | null): string {
  if (!render) return 'no render of this version';
  const at = `${render.sheet} ${render.width} × ${render.height}`;
  if (render.state === 'active') return `${at}, ${percent(render.progress)}`;
  if (render.state === 'done')
    return `${at}, ${render.samples} samples${render.examined === 'waiting' ? ', looking for causes' : ''}`;
  if (render.state === 'stopped') return `${at}, stopped at ${number(render.samplesDone)} samples`;
  return `${at}, failed`;
}

/** A shot that began with pictures is looked at. */
const placeOf = ({ code, render, pictures }: ShotSummary) => ({
  name: !render && pictures ? 'look' : 'shot',
  params: { code },
});

function openTold(shot: ShotSummary): string {
  if (shot.open > 0) return `${shot.open} open`;
  return shot.render?.examined === 'done' ? 'nothing found' : '';
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
      <span class="dim">Measure, find the cause, change one thing, prove it.</span>
      <span class="gap"></span>
      <span v-if="!connected" class="tag" role="status">The server does not answer; connecting again …</span>
      <label class="pick"
        ><button class="plain" type="button" tabindex="-1">Bring in a folder</button
        ><input type="file" webkitdirectory aria-label="Bring in a shot folder" @change="choose"
      /></label>
      <label class="pick"
        ><button class="plain act" type="button" tabindex="-1">Bring in a file</button
        ><input
          type="file"
          multiple
          accept=".zip,.glb,.gltf,.obj,.usda,.usd,.exr,.hdr,.pfm,.png,.jpg,.jpeg,.tif,.tiff"
          aria-label="Bring in a zip archive, a scene file or pictures"
          @change="choose"
      /></label>
      <Button v-if="session.needed" label="Sign out" text severity="secondary" size="small" @click="signOut" />
    </header>
    <main>
      <div v-if="upload" class="sending" role="status">
        <span>Sending the shot … {{ percent(sent) }}{{ sent >= 1 ? ', being checked' : '' }}</span>
        <progress :value="sent" max="1"></progress>
        <button class="flat" @click="upload.cancel()">Cancel</button>
      </div>
      <div v-if="uploads.waiting.length" class="sending" role="status">
        <span>Sending {{ uploads.waiting[0].file.name }} … {{ percent(uploads.waiting[0].sent) }}</span>
        <progress :value="uploads.waiting[0].sent" max="1"></progress>
        <button class="flat" @click="uploads.cancel()">Cancel</button>
      </div>
      <div v-for="one in uploads.refused" :key="one.key" class="refusal" role="alert">
        <p>{{ one.error }}</p>
        <button class="flat" @click="uploads.dismiss(one.key)">Dismiss</button>
      </div>
      <div v-if="refusal" class="refusal" role="alert">
        <p>{{ refusal.text }}</p>
        <ul>
          <li v-for="problem in refusal.problems" :key="problem">{{ problem }}</li>
        </ul>
        <button class="flat" @click="refusal = null">Dismiss</button>
      </div>
      <p v-if="shots === null" class="dim empty">Loading the shots …</p>
      <div v-else-if="shots.length === 0" class="empty">
        <h2>No shots yet</h2>
        <p class="soft">
          Drop a shot folder, a scene (glTF, OBJ or USD text, with its files), a zip archive of either, or pictures of
          any renderer here. The layout of a shot folder is described in docs/shot-document.md.
        </p>
      </div>
      <table v-else>
        <thead>
          <tr>
            <th></th>
            <th>Shot</th>
            <th>Intake</th>
            <th>Newest render</th>
            <th>Findings</th>
            <th class="right">Pictures</th>
            <th class="right">Trials</th>
            <th class="right">Kept</th>
            <th class="right">Rays</th>
            <th class="right">Version</th>
            <th><span class="unseen">More</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="shot in shots" :key="shot.code" @click="router.push(placeOf(shot))">
            <td class="face"><PictureThumb v-if="shot.render" :render="shot.render" /></td>
            <td>
              <RouterLink :to="placeOf(shot)"
                ><b>{{ shot.code }}</b> {{ shot.name }}</RouterLink
              >
              <span v-if="shot.archived" class="tag">archived</span>
            </td>
            <td>
              <RouterLink :to="{ name: 'intake', params: { code: shot.code } }" class="soft" @click.stop>{{
                tellPreflight(shot.preflight)
              }}</RouterLink>
            </td>
            <td class="num soft">{{ renderTold(shot.render) }}</td>
            <td>
              <span v-if="shot.worst" class="severity" :class="shot.worst">{{ shot.worst }}</span>
              <span class="soft open">{{ openTold(shot) }}</span>
            </td>
            <td class="right num">
              <RouterLink
                v-if="shot.pictures"
                :to="{ name: 'look', params: { code: shot.code } }"
                class="soft"
                @click.stop
                >{{ shot.pictures }}</RouterLink
              >
            </td>
            <td class="right num">{{ shot.trials }}</td>
            <td class="right num">{{ shot.kept }}</td>
            <td class="right num">{{ shot.render ? count(shot.render.rays) : '' }}</td>
            <td class="right num">{{ shot.version }}</td>
            <td class="more" @click.stop><ShotMenu :shot="shot" @changed="disk?.look()" /></td>
          </tr>
        </tbody>
      </table>
      <div v-if="all?.length" class="foot">
        <DiskFigure ref="disk" />
        <label v-if="archived" class="soft"
          ><Checkbox v-model="showsArchived" binary size="small" /> Show {{ archived }} archived</label
        >
      </div>
      <p v-if="shots?.length" class="dim hint">
        Drop a shot folder, a scene (.gltf, .glb, .obj, .usda, with its files), a zip archive, or pictures anywhere on
        this page to bring them in.
      </p>
    </main>
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
main {
  overflow: auto;
  padding: 16px;
}
.pick {
  position: relative;
}
.pick input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
  width: 100%;
}
.pick:focus-within button {
  outline: 2px solid var(--act);
  outline-offset: 1px;
}
table {
  width: 100%;
  border-collapse: collapse;
  background: var(--panel);
}
th {
  font-weight: 400;
  font-size: 11px;
  color: var(--dim);
  text-align: left;
  padding: 6px 12px;
  border-bottom: 1px solid var(--line);
}
td {
  padding: 8px 12px;
  border-bottom: 1px solid var(--up);
}
tbody tr {
  cursor: pointer;
}
tbody tr:hover,
tbody tr:focus-within {
  background: var(--up);
}
td a {
  text-decoration: none;
}
.severity + .open {
  margin-left: 8px;
}
.right {
  text-align: right;
}
.face {
  width: 130px;
  padding: 6px 12px;
}
.empty {
  max-width: 560px;
  margin: 60px auto;
  display: grid;
  gap: 8px;
}
.foot {
  display: flex;
  gap: 18px;
  align-items: center;
  margin-top: 12px;
}
.foot label {
  display: flex;
  gap: 6px;
  align-items: center;
}
.more {
  padding: 0 4px;
  width: 36px;
}
.hint {
  margin-top: 12px;
}
.sending,
.refusal {
  background: var(--up);
  padding: 10px 14px;
  margin-bottom: 12px;
  display: flex;
  gap: 14px;
  align-items: center;
}
.refusal {
  display: block;
  border-left: 3px solid var(--stop);
}
.refusal li {
  font-size: 12px;
  color: var(--soft);
  padding: 2px 0;
}
</style>
