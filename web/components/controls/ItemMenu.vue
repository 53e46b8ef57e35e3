<script setup lang="ts">
/** What can be done with an item of the scene as a whole: copied, looked through, deleted. */
import { useConfirm } from 'primevue/useconfirm';
import { computed, ref } from 'vue';
import type { Item } from '../../../core/document/controls.ts';
import { copyOf } from '../../../core/document/new-items.ts';
import { REMOVABLE, usersOf } from '../../../core/document/remove-items.ts';
import { useMessages } from '../../stores/messages.ts';
import { usePending } from '../../stores/pending.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import MoreMenu from '../shared/MoreMenu.vue';
import { alikeObjects, carriedMapping } from '../../../core/document/carry-mapping.ts';
import { wearersOf } from '../../../core/document/reassign.ts';
import ReassignDialog from '../shared/ReassignDialog.vue';
import SunDialog from './SunDialog.vue';

const { item } = defineProps<{ item: Item }>();
const shot = useShot();
const view = useView();
const pending = usePending();
const confirm = useConfirm();

/** Users that are named in the question, before the rest is counted. */
const TOLD = 5;

const part = computed(() => item.pointer.split('/')[1]);
const word = computed(() => REMOVABLE[part.value as keyof typeof REMOVABLE]);

async function duplicate(): Promise<void> {
  const copy = copyOf(shot.state!.document, item.pointer);
  if (await shot.addItem(copy.pointer, copy.item)) view.showDial(copy.pointer);
}

function askToDelete(): void {
  const users = usersOf(shot.state!.document, item.pointer);
  const holding = users.find(({ holds }) => holds);
  if (holding) {
    useMessages().failed(`${item.name} cannot be deleted: ${holding.told}.`);
    return;
  }
  if (users.length === 0) {
    void remove();
    return;
  }
  const rest = users.length - TOLD;
  confirm.require({
    header: `Delete ${word.value} ${item.name}`,
    message: `${users.slice(0, TOLD).map(({ told }) => told).join('; ')}${rest > 0 ? `; and ${rest} more` : ''}. Undo brings all of it back.`,
    acceptProps: { label: 'Delete', severity: 'danger' },
    rejectProps: { label: 'Cancel', severity: 'secondary' },
    accept: () => void remove(),
  }); // prettier-ignore
}

async function remove(): Promise<void> {
  if (await shot.removeItems([item.pointer])) view.choose([]);
}

/** Values that give maps of objects like it the mapping of its own. */
const mapping = computed(() =>
  part.value === 'objects'
    ? carriedMapping(shot.state!.document, item.id, alikeObjects(shot.state!.document, item.id))
    : {},
);
function carryMapping(): void {
  const values = Object.entries(mapping.value);
  for (const [pointer, value] of values) pending.put(shot.state!.document, pointer, value);
  const maps = new Set(values.map(([pointer]) => pointer.split('/')[2])).size;
  useMessages().done(`The mapping of ${item.name} is set on ${maps} ${maps === 1 ? 'map' : 'maps'}, and not kept yet.`);
}

const isReassigning = ref(false);
/** Objects that have the material. */
const wearers = computed(() => (part.value === 'materials' ? wearersOf(shot.state!.document, [item.id]) : []));
const isSunOpen = ref(false);
const isSun = computed(
  () =>
    item.pointer === '/environment' ||
    (part.value === 'lights' && shot.state!.document.lights[item.id]?.kind === 'distant'),
);

const items = computed(() => [
  ...(isSun.value
    ? [
        {
          label: part.value === 'environment' ? 'Daylight sky …' : 'Sun by place and time …',
          command: () => (isSunOpen.value = true),
        },
      ]
    : []),
  ...(part.value === 'cameras' && shot.state!.document.camera !== item.id
    ? [{ label: 'Look through it', command: () => pending.put(shot.state!.document, '/camera', item.id) }]
    : []),
  ...(Object.keys(mapping.value).length
    ? [{ label: 'Copy its mapping to objects like it', command: carryMapping }]
    : []),
  ...(wearers.value.length
    ? [
        {
          label: `Choose its ${wearers.value.length === 1 ? 'object' : `${wearers.value.length} objects`}`,
          command: () => view.choose(wearers.value.map((id) => `/objects/${id}`)),
        },
        { label: 'Reassign …', command: () => (isReassigning.value = true) },
      ]
    : []),
  ...(word.value
    ? [
        { label: 'Duplicate', command: () => void duplicate() },
        { label: 'Delete …', command: askToDelete },
      ]
    : []),
]);
</script>

<template>
  <template v-if="items.length">
    <MoreMenu :name="item.name" :items="items" />
    <ReassignDialog v-if="isReassigning" :materials="[item.id]" @closed="isReassigning = false" />
    <SunDialog v-if="isSunOpen" :pointer="item.pointer" :name="item.name" @closed="isSunOpen = false" />
  </template>
</template>
