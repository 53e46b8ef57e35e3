<script setup lang="ts">
/** Every file of the shot, what will not travel first. */
import Column from 'primevue/column';
import ContextMenu from 'primevue/contextmenu';
import DataTable from 'primevue/datatable';
import type { MenuItem } from 'primevue/menuitem';
import { computed, ref, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import type { IntakeFile } from '../../../core/contracts/intake.ts';
import { copyText } from '../../copy-text.ts';
import { fileSeverity, fileSize, fileState } from '../../file-words.ts';
import { pointerOf } from '../../offenders.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';

const props = defineProps<{ files: IntakeFile[]; find: string }>();
const chosen = defineModel<string | null>('chosen', { required: true });

const shown = computed(() => {
  const words = props.find.toLowerCase().split(/\s+/).filter(Boolean);
  return props.files.filter(({ path, neededBy, state }) => {
    const text = [path, state, ...neededBy].join(' ').toLowerCase();
    return words.every((word) => text.includes(word));
  });
});
const looks = ({ breaks }: IntakeFile): string =>
  breaks.map(({ look, objects }) => `${objects.length} ${look}`).join(', ');
/** What will not travel first. */
const RANKS = ['stop', 'caution', 'note', 'clear'];
const rows = computed(() =>
  shown.value.map((file) => ({
    ...file,
    by: file.neededBy[0] ?? '',
    looks: looks(file),
    rank: RANKS.indexOf(fileSeverity(file.state)),
  })),
);
const selection = computed({
  get: () => rows.value.find(({ path }) => path === chosen.value) ?? null,
  set: (file) => file && (chosen.value = file.path),
});

const shot = useShot();
const view = useView();
const router = useRouter();
const menu = useTemplateRef('menu');
const items = ref<MenuItem[]>([]);
/** Things of the scene that a menu leads to, at most. */
const MOST_THINGS = 5;
/** What can be done with the file under the pointer. */
function openMenu(event: Event, file: IntakeFile): void {
  chosen.value = file.path;
  const names = [...new Set(file.breaks.flatMap(({ objects }) => objects))];
  const things = names.flatMap((name) => {
    const pointer = shot.state && pointerOf(shot.state.document, name);
    return pointer ? [{ name, pointer }] : [];
  });
  items.value = [
    { label: 'Copy path', command: () => void copyText(file.path, 'Path copied.') },
    ...(file.neededBy.length
      ? [{ label: 'Copy what needs it', command: () => void copyText(file.neededBy.join('\n'), 'Copied.') }]
      : []),
    ...things.slice(0, MOST_THINGS).map(({ name, pointer }) => ({
      label: `Show ${name} in the scene`,
      command: () => {
        view.showDial(pointer);
        void router.push({ name: 'shot', params: { code: shot.state!.code }, query: view.query });
      },
    })),
  ];
  menu.value!.show(event);
}
/** Rows beyond which only those on screen are drawn. */
const MANY = 200;
</script>

<template>
  <DataTable
    v-model:selection="selection"
    :value="rows"
    data-key="path"
    selection-mode="single"
    :meta-key-selection="false"
    size="small"
    removable-sort
    scrollable
    scroll-height="flex"
    :virtual-scroller-options="rows.length > MANY ? { itemSize: 29 } : undefined"
    class="files"
    :table-props="{ 'aria-label': 'Files' }"
    @row-contextmenu="({ originalEvent, data }) => openMenu(originalEvent, data)"
    @row-unselect="({ data }) => (chosen = data.path)"
  >
    <template #empty>No file is called “{{ find }}”.</template>
    <Column field="rank" header="State" sortable class="state">
      <template #body="{ data }"
        ><span class="severity" :class="fileSeverity(data.state)">{{ fileState(data.state) }}</span></template
      >
    </Column>
    <Column field="path" header="File" sortable class="cut">
      <template #body="{ data }">
        <span :title="data.path">{{ data.path }}</span>
        <span v-if="!data.used && data.state !== 'missing'" class="tag"> unused</span>
      </template>
    </Column>
    <Column field="kind" header="Kind" sortable class="kind" />
    <Column field="by" header="Needed by" sortable class="cut">
      <template #body="{ data }">
        <span :title="data.neededBy.join('\n')"
          >{{ data.by
          }}<span v-if="data.neededBy.length > 1" class="dim"> and {{ data.neededBy.length - 1 }} more</span></span
        >
      </template>
    </Column>
    <Column field="looks" header="Without it" sortable class="cut" />
    <Column field="bytes" header="Size" sortable class="right num size">
      <template #body="{ data }">{{ fileSize(data.bytes) }}</template>
    </Column>
  </DataTable>
  <ContextMenu ref="menu" :model="items" />
</template>

<style scoped>
.files {
  min-height: 0;
}
.files :deep(table) {
  table-layout: fixed;
}
.files :deep(:is(th, td):first-child) {
  padding-left: 16px;
}
.files :deep(td.cut) {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.files :deep(.state) {
  width: 110px;
}
.files :deep(.kind) {
  width: 92px;
}
.files :deep(.size) {
  width: 88px;
  text-align: right;
}
.severity {
  width: 76px;
}
.severity.clear {
  color: var(--dim);
  border-color: transparent;
}
</style>
