<script setup lang="ts">
/** Every version of the shot, newest first: what changed, when, its picture; one looked at, compared, named, gone back to. */
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import type { MenuItem } from 'primevue/menuitem';
import { useTemplateRefsList } from '@vueuse/core';
import { computed, nextTick, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { RenderSummary, VersionSummary } from '../../../core/contracts/events.ts';
import { versionLine } from '../../../core/document/version-line.ts';
import { copyText } from '../../copy-text.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import MoreMenu from '../shared/MoreMenu.vue';
import PictureThumb from '../shared/PictureThumb.vue';

const shot = useShot();
const view = useView();
const router = useRouter();

const head = computed(() => shot.state!.head);
/** The present version and those it was made from. */
const line = computed(() => versionLine(head.value.id, shot.state!.versions));
const rows = computed(() =>
  [...shot.state!.versions].reverse().map((version) => ({
    version,
    render: shot.bases.findLast(({ versionId, samplesDone }) => versionId === version.id && samplesDone > 0) ?? null,
    isHead: version.id === head.value.id,
    isUndone: !line.value.has(version.id),
    changes: version.reason.split('; '),
  })),
);
/** The render of the present version, which others are held against. */
const present = computed(() => rows.value.find(({ isHead }) => isHead)?.render ?? null);

const time = new Intl.DateTimeFormat('en', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hour12: false }); // prettier-ignore

function show(render: RenderSummary): void {
  Object.assign(view, { trialId: null, sweepId: null, findingId: null, renderId: render.id });
}
const compare = (render: RenderSummary) =>
  void router.push({
    name: 'look',
    params: { code: shot.state!.code },
    query: { a: `r${render.id}`, b: `r${present.value!.id}`, mode: 'wipe', panel: 'compare' },
  });

const naming = ref<number | null>(null);
const name = ref('');
async function beginNaming(version: VersionSummary): Promise<void> {
  [naming.value, name.value] = [version.id, version.name];
  await nextTick();
  document.querySelector<HTMLInputElement>('#version-name')?.focus();
}
async function keepName(): Promise<void> {
  const id = naming.value;
  naming.value = null;
  if (id !== null) await shot.nameVersion(id, name.value);
}

function itemsOf({ version, render, isHead }: (typeof rows.value)[number]): MenuItem[] {
  return [
    ...(render ? [{ label: 'Show its picture', command: () => show(render) }] : []),
    ...(render && present.value && !isHead ? [{ label: 'Compare with the current version', command: () => compare(render) }] : []),
    { label: version.name ? 'Rename …' : 'Name …', command: () => void beginNaming(version) },
    { label: 'Copy what changed', command: () => void copyText(version.reason, 'Copied.') },
    ...(isHead ? [] : [{ separator: true }, { label: `Go back to version ${version.number}`, command: () => void shot.returnTo(version.id) }]),
  ]; // prettier-ignore
}
const menus = useTemplateRefsList<InstanceType<typeof MoreMenu>>();
</script>

<template>
  <section class="history" aria-label="History">
    <ol>
      <li
        v-for="(row, at) in rows"
        :key="row.version.id"
        :class="{ head: row.isHead }"
        @contextmenu.prevent="menus[at]?.toggle($event)"
      >
        <Button
          v-if="row.render"
          unstyled
          class="bare picture"
          :aria-label="`Show the picture of version ${row.version.number}`"
          @click="show(row.render)"
        >
          <PictureThumb :render="row.render" />
        </Button>
        <span v-else class="picture none dim">not rendered</span>
        <div class="told">
          <p class="title">
            <b class="num">Version {{ row.version.number }}</b>
            <span v-if="naming !== row.version.id && row.version.name">{{ row.version.name }}</span>
            <span v-if="row.isHead" class="tag">current</span>
            <span v-else-if="row.isUndone" class="tag" title="Undone, or abandoned for another branch">undone</span>
            <time class="dim num" :datetime="row.version.createdAt">{{
              time.format(new Date(row.version.createdAt))
            }}</time>
          </p>
          <form v-if="naming === row.version.id" @submit.prevent="keepName">
            <InputText
              id="version-name"
              v-model="name"
              size="small"
              maxlength="200"
              :aria-label="`Name of version ${row.version.number}`"
              fluid
              @keydown.escape.stop="naming = null"
              @blur="keepName"
            />
          </form>
          <ul>
            <li v-for="change in row.changes" :key="change" class="soft">{{ change }}</li>
          </ul>
        </div>
        <MoreMenu :ref="menus.set" :name="`version ${row.version.number}`" :items="itemsOf(row)" />
      </li>
    </ol>
  </section>
</template>

<style scoped>
.history {
  height: 100%;
  overflow: auto;
  font-size: var(--small);
}
ol > li {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr) auto;
  gap: 10px;
  padding: 8px 12px;
  border-bottom: 1px solid var(--line);
  align-items: start;
}
.head {
  box-shadow: inset 2px 0 var(--act);
}
.head .tag {
  color: var(--act);
  border-color: var(--act);
}
.picture {
  width: 84px;
}
.none {
  display: grid;
  place-items: center;
  aspect-ratio: 16 / 9;
  background: var(--stage);
}
.title {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  align-items: baseline;
}
time {
  margin-left: auto;
}
.told ul li {
  overflow-wrap: anywhere;
}
</style>
