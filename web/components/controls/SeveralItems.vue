<script setup lang="ts">
/** Several items set at once: moved, turned and scaled as one, and the controls that all of them have. */
import { RotateCcw, X } from '@lucide/vue';
import Button from 'primevue/button';
import { computed, ref, watch } from 'vue';
import type { Triple } from '../../../core/data/placement.ts';
import { movedTogether, NOT_MOVED, type Together } from '../../../core/data/together.ts';
import type { Transform } from '../../../core/data/transform.ts';
import type { Control, Item } from '../../../core/document/controls.ts';
import { newGroup } from '../../../core/document/new-items.ts';
import { valueAt } from '../../../core/document/patch.ts';
import { sharedControls, spreadOf, type SharedControl } from '../../../core/document/several.ts';
import { usePending } from '../../stores/pending.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import ReassignDialog from '../shared/ReassignDialog.vue';
import ControlField from './ControlField.vue';

const { items } = defineProps<{ items: Item[] }>();
const shot = useShot();
const view = useView();
const pending = usePending();

/** Names told before the rest is counted. */
const TOLD = 12;

const document = computed(() => shot.state!.document);
const shared = computed(() => sharedControls(document.value, items));
const group = computed(() => (new Set(items.map((item) => item.group)).size === 1 ? items[0].group : 'Items'));

/** Transforms of items that stand somewhere; null where one of them does not. */
const places = computed(() => {
  const placed = items.every(({ pointer }) => {
    const [, part, id] = pointer.split('/');
    const light = part === 'lights' ? document.value.lights[id] : null;
    return ['objects', 'cameras'].includes(part) || (light && light.kind !== 'distant' && light.kind !== 'mesh');
  });
  return placed ? items.map(({ pointer }) => `${pointer}/transform`) : null;
});

/** Where they stood when they were chosen, or kept, or moved by other hands; and what was done since. */
let from: Transform[] = [];
let own = '';
const by = ref<Together>(NOT_MOVED);
watch(
  () => JSON.stringify([places.value, shot.state!.head.id, places.value?.map((at) => pending.scene[at])]),
  (now) => {
    if (now === own) return;
    from = (places.value ?? []).map((at) => (pending.scene[at] ?? valueAt(document.value, at)) as Transform);
    by.value = NOT_MOVED;
  },
  { immediate: true },
);

function move(change: Partial<Together>): void {
  by.value = { ...by.value, ...change };
  const moved = movedTogether(from, by.value);
  places.value!.forEach((at, i) => pending.put(document.value, at, moved[i]));
  own = JSON.stringify([places.value, shot.state!.head.id, places.value!.map((at) => pending.scene[at])]);
}

/** Ids, where materials alone are chosen. */
const materials = computed(() => (group.value === 'Materials' ? items.map(({ id }) => id) : []));
const isReassigning = ref(false);

async function keepAsGroup(): Promise<void> {
  const { pointer, item } = newGroup(document.value, items.map(({ id }) => id)); // prettier-ignore
  if (await shot.addItem(pointer, item)) view.showDial(`${pointer}/name`);
}

const AXES = ['X', 'Y', 'Z'] as const;
const BOUND = 1e9;
const MOVES = [
  { key: 'offset', control: { kind: 'numbers', label: 'Move by', optional: false, min: -BOUND, max: BOUND, step: 0.1, axes: AXES }, unit: 'm', help: 'metres along the axes of the world, from where they stood when they were chosen' },
  { key: 'rotation', control: { kind: 'numbers', label: 'Turn by', optional: false, min: -360, max: 360, step: 1, axes: AXES }, unit: '°', help: 'degrees about axes of the world through their middle; Z first, then X, then Y' },
  { key: 'factor', control: { kind: 'number', label: 'Scale by', optional: false, min: 0.001, max: 1000, step: 0.05, digits: 4 }, unit: '×', help: 'their sizes, and how far they stand from their middle' },
] as const; // prettier-ignore
/** Lights and cameras have no size of their own to scale. */
const moves = computed(() =>
  MOVES.filter(({ key }) => key !== 'factor' || items.every(({ group }) => group === 'Objects')),
);
function setMove(key: keyof Together, value: unknown): void {
  move({ [key]: key === 'factor' ? (value as number) : (value as Triple) });
}
const isMoved = (key: keyof Together) => JSON.stringify(by.value[key]) !== JSON.stringify(NOT_MOVED[key]);

const spread = ({ each }: SharedControl) => spreadOf(each.map((one) => pending.shown(one)));
const isSet = ({ each }: SharedControl) => each.some((one) => pending.isSet(one));
const put = ({ each }: SharedControl, value: unknown) => each.forEach((one) => pending.set(document.value, one, value));
const reset = ({ each }: SharedControl) => each.forEach((one) => pending.set(document.value, one, one.value));
const unit = ({ kind, unit }: Control) => (kind === 'number' || kind === 'numbers' ? unit : '');
const without = (pointer: string) => view.choose(view.items.filter((one) => one !== pointer));
</script>

<template>
  <div>
    <div class="title">
      <Button unstyled class="bare back" title="All items" @click="view.choose([])">‹ {{ group }}</Button>
      <b>{{ items.length }} together</b>
      <Button
        v-if="materials.length"
        severity="secondary"
        variant="outlined"
        size="small"
        title="Gives their objects another material, or plain grey"
        @click="isReassigning = true"
        >Reassign …</Button
      >
      <Button
        v-if="group === 'Objects'"
        severity="secondary"
        variant="outlined"
        size="small"
        title="Keeps them under a name, to be chosen together again"
        @click="keepAsGroup"
        >Group</Button
      >
      <ReassignDialog v-if="isReassigning" :materials="materials" @closed="isReassigning = false" />
    </div>
    <p class="names">
      <span v-for="item in items.slice(0, TOLD)" :key="item.pointer" class="name">
        <Button unstyled class="bare" :title="`${item.name} alone`" @click="view.choose([item.pointer])">{{
          item.name
        }}</Button>
        <Button unstyled class="bare dim" :aria-label="`Without ${item.name}`" @click="without(item.pointer)">
          <X :size="11" aria-hidden="true" />
        </Button>
      </span>
      <span v-if="items.length > TOLD" class="dim">and {{ items.length - TOLD }} more</span>
    </p>
    <template v-if="places">
      <div
        v-for="{ key, control, unit: measure, help } in moves"
        :key="key"
        class="row wide"
        :class="{ changed: isMoved(key) }"
      >
        <span v-tooltip.left="help" class="label"
          >{{ control.label }} <small class="dim">{{ measure }}</small></span
        >
        <span class="field">
          <ControlField :control="control" :value="by[key]" @set="setMove(key, $event)" />
        </span>
      </div>
    </template>
    <p v-if="shared.length === 0" class="dim">These have no control in common.</p>
    <div
      v-for="one in shared"
      :key="one.control.key"
      class="row"
      :class="{ changed: isSet(one), wide: one.control.axes }"
      :data-control="one.control.pointer"
    >
      <span v-tooltip.left="one.control.help" class="label">
        {{ one.control.label }} <small class="dim">{{ unit(one.control) }}</small>
        <small v-if="spread(one)" class="spread" title="Setting it makes them alike">{{ spread(one) }}</small>
      </span>
      <span class="field">
        <ControlField :control="one.control" :value="pending.shown(one.control)" @set="put(one, $event)" />
        <Button
          v-if="isSet(one)"
          unstyled
          class="bare reset"
          :aria-label="`Reset ${one.control.label.toLowerCase()} of all`"
          title="Each back to its stored value"
          @click="reset(one)"
        >
          <RotateCcw :size="12" aria-hidden="true" />
        </Button>
      </span>
    </div>
  </div>
</template>

<style scoped>
.title {
  display: flex;
  gap: 10px;
  align-items: baseline;
  padding: 6px 0;
  border-bottom: 1px solid #2c2c2c;
  font-size: var(--small);
}
.names {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 8px;
  margin: 6px 0;
  font-size: var(--small);
}
.name {
  display: inline-flex;
  gap: 3px;
  align-items: center;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 178px;
  gap: 8px;
  align-items: center;
  padding: 3px 0;
  font-size: var(--small);
}
.row.wide {
  grid-template-columns: 74px minmax(0, 1fr);
}
.label {
  color: var(--soft);
}
.spread {
  display: block;
  color: var(--care);
}
.changed .label::after {
  content: ' •';
  color: var(--act);
}
.field {
  position: relative;
}
.reset {
  position: absolute;
  left: -16px;
  top: 50%;
  transform: translateY(-50%);
  color: var(--soft);
}
</style>
