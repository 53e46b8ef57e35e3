<script setup lang="ts">
/**
 * Frame, cameras, lights, environment, materials, maps and objects: found by search, each with its controls. A value that is
 * set waits at the foot of the panel, as in the sheets: it can be tried on the region first, or kept at once.
 */
import Listbox, { type ListboxChangeEvent } from 'primevue/listbox';
import { RotateCcw } from '@lucide/vue';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { storeToRefs } from 'pinia';
import { computed, nextTick, ref, watch } from 'vue';
import { controlsOf, itemsOf, type Control, type Item } from '../../../core/document/controls.ts';
import { withPart } from '../../../core/data/placement.ts';
import type { Transform } from '../../../core/data/transform.ts';
import type { MaterialSpec } from '../../../core/document/schema.ts';
import { valueAt } from '../../../core/document/patch.ts';
import { tellChange } from '../../../core/document/tell-change.ts';
import { valuesPatch, withValues } from '../../../core/document/set-values.ts';
import { canSweep, type SweepValue } from '../../../core/predict/sweep.ts';
import { useSetValuesCommands } from '../../set-values-commands.ts';
import { useCurrent } from '../../stores/current.ts';
import { usePending } from '../../stores/pending.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import { beginScrub } from '../../scrub.ts';
import AddMenu from './AddMenu.vue';
import ControlField from './ControlField.vue';
import ReliefReader from './ReliefReader.vue';
import TintCalculator from './TintCalculator.vue';
import ItemMenu from './ItemMenu.vue';
import SweepDialog from '../trials/SweepDialog.vue';
import SeveralItems from './SeveralItems.vue';

/** Items of a group shown before a search narrows them. */
const MOST = 40;

const shot = useShot();
const view = useView();
const current = useCurrent();
const search = ref('');
const list = ref<HTMLElement | null>(null);
const set = usePending();
const { scene: pending } = storeToRefs(set);
const { shown, isSet } = set;

const document = computed(() => shot.state!.document);
const items = computed(() => itemsOf(document.value));
const chosen = computed(
  () => items.value.find((item) => view.item === item.pointer || view.item?.startsWith(`${item.pointer}/`)) ?? null,
);
/** All that are chosen, where they are several. */
const several = computed(() =>
  view.items.length < 2
    ? []
    : view.items.flatMap((pointer) => items.value.find((item) => item.pointer === pointer) ?? []),
);
/** Pointers of the objects of a group. */
const members = computed(() => {
  const group = chosen.value?.group === 'Groups' ? document.value.groups[chosen.value.id] : null;
  return (group?.objects ?? []).map((id) => `/objects/${id}`);
});
const words = computed(() => search.value.trim().toLowerCase());

/** Items whose name is found, and those that have a control which is. */
const groups = computed(() => {
  const found = items.value.filter((item) => isFound(item));
  const names = [...new Set(found.map((item) => item.group))];
  return names.map((name) => {
    const all = found.filter((item) => item.group === name);
    return { name, all: all.length, items: all.slice(0, MOST) };
  });
});

/** Pointers of what a search finds and can be set with others. */
const found = computed(() =>
  items.value
    .filter((item) => item.group !== 'Shot' && item.group !== 'Environment' && isFound(item))
    .map(({ pointer }) => pointer),
);

/** Marked in the list with Ctrl or Shift, to be set together. */
const marked = ref<string[]>([]);
function mark({ originalEvent, value }: ListboxChangeEvent): void {
  const { ctrlKey, metaKey, shiftKey } = originalEvent as MouseEvent | KeyboardEvent;
  if (ctrlKey || metaKey || shiftKey) marked.value = value;
  else view.choose([(value as string[]).at(-1)!]);
}
function open(pointers: string[]): void {
  view.choose(pointers);
  marked.value = [];
}

function isFound(item: Item): boolean {
  if (words.value === '') return true;
  if (`${item.name} ${item.id} ${item.group}`.toLowerCase().includes(words.value)) return true;
  return controlsOf(document.value, item).some((control) => speaks(control));
}
const speaks = (control: Control) =>
  words.value !== '' && `${control.label} ${control.help}`.toLowerCase().includes(words.value);

/** Of a sky those that its kind has. */
const controls = computed(() =>
  (chosen.value ? controlsOf(document.value, chosen.value) : []).filter(
    ({ when }) =>
      !when || when.is.includes(String(pending.value[when.pointer] ?? valueAt(document.value, when.pointer))),
  ),
);
const changes = computed(() => Object.keys(pending.value).length);

/** The chosen material with what is set. */
const material = computed(() => {
  if (chosen.value?.group !== 'Materials') return null;
  const set = controls.value.map((control) => [control.pointer.split('/')[3], shown(control)]);
  return { ...document.value.materials[chosen.value.id], ...(Object.fromEntries(set) as Partial<MaterialSpec>) };
});
const glass = computed(() => (material.value && material.value.transmission > 0 ? material.value : null));
const relief = computed(() => (material.value && material.value.displacementMap !== null ? material.value : null));

const put = (control: Control, value: unknown) => set.set(document.value, control, value);
/** What is set, in words. */
const told = computed(() => {
  try {
    const patch = valuesPatch(document.value, ['preview'], pending.value);
    return tellChange(document.value, withValues(document.value, ['preview'], pending.value), patch).join('\n');
  } catch (error) {
    return (error as Error).message;
  }
});

/** Dragged sideways, a name moves its number. */
function scrub(event: PointerEvent, control: Control): void {
  const from = shown(control);
  if (typeof from !== 'number') return;
  const digits = control.whole || control.step !== undefined ? undefined : 4;
  beginScrub(event, { ...control, digits }, from, (value) => put(control, Number(value.toFixed(6))));
}

const sweeping = ref<Control | null>(null);
/** Parts of a transform are set as the whole of it. */
function setFor({ pointer, part }: Control): ((value: SweepValue) => unknown) | undefined {
  if (part === null) return undefined;
  const stored = valueAt(document.value, pointer) as Transform;
  return (value) => withPart(stored, stored, part, value as number);
}

async function keep(): Promise<void> {
  if (await shot.setDials(['preview', 'final'], pending.value)) pending.value = {};
}

async function tryOut(): Promise<void> {
  const trial = await shot.tryOut({
    finding: null,
    remedy: null,
    region: current.region,
    sheet: current.sheetName,
    values: pending.value,
  });
  if (trial) view.trialId = trial.id;
}

const discard = () => (pending.value = {});
useSetValuesCommands('the scene', changes, () => ({ discard, tryHere: current.region ? tryOut : undefined, keep }));

// A control that something links to is scrolled to and takes the keyboard.
watch(
  () => `${view.panel} ${view.dial} ${list.value !== null}`,
  async () => {
    if (view.panel !== 'scene' || !view.dial) return;
    await nextTick();
    const row = list.value?.querySelector<HTMLElement>(`[data-control="${view.dial}"]`);
    row?.scrollIntoView({ block: 'center' });
    row?.querySelector('input')?.focus();
  },
  { immediate: true },
);
</script>

<template>
  <section class="scene" aria-label="Scene">
    <div class="search">
      <InputText
        v-model="search"
        size="small"
        placeholder="Find an item or a control: shadow, roughness, sun …"
        aria-label="Find an item or a control of the scene"
        fluid
      />
      <AddMenu />
    </div>
    <SeveralItems v-if="several.length > 1" :items="several" class="controls" />
    <div v-else-if="chosen" ref="list" class="controls">
      <div class="title">
        <Button unstyled class="bare back" title="All items" @click="view.choose([])">‹ {{ chosen.group }}</Button>
        <b>{{ chosen.name }}</b>
        <span class="dim">{{ chosen.id }}</span>
        <ItemMenu :item="chosen" />
        <Button
          v-if="members.length"
          severity="secondary"
          variant="outlined"
          size="small"
          title="Chooses all of them, to be moved and set as one"
          @click="view.choose(members)"
          >Choose {{ members.length === 1 ? 'its object' : `its ${members.length}` }}</Button
        >
        <Button
          v-if="chosen.id === 'frame'"
          severity="secondary"
          variant="outlined"
          size="small"
          @click="view.isFraming = true"
          >Render frames …</Button
        >
      </div>
      <div
        v-for="control in controls"
        :key="control.key"
        class="row"
        :class="{
          found: speaks(control),
          pointed: view.dial === control.pointer,
          changed: isSet(control),
          wide: control.axes,
        }"
        :data-control="control.pointer"
      >
        <span v-tooltip.left="control.help" class="label">
          <span :class="{ scrub: typeof shown(control) === 'number' }" @pointerdown="scrub($event, control)">{{
            control.label
          }}</span>
          <small class="dim">{{ control.kind === 'number' || control.kind === 'numbers' ? control.unit : '' }}</small>
          <Button
            v-if="canSweep(control)"
            unstyled
            class="bare sweep"
            :aria-label="`Sweep ${control.label.toLowerCase()}`"
            title="Several values beside each other, on the region"
            @click="sweeping = control"
          >
            sweep …
          </Button>
        </span>
        <span class="field">
          <ControlField :control="control" :value="shown(control)" @set="put(control, $event)" />
          <Button
            v-if="isSet(control)"
            unstyled
            class="bare reset"
            :aria-label="`Reset ${control.label.toLowerCase()}`"
            title="Back to the stored value"
            @click="put(control, control.value)"
          >
            <RotateCcw :size="12" aria-hidden="true" />
          </Button>
        </span>
        <small v-if="control.told" class="dim told">{{ control.told[String(shown(control))] }}</small>
      </div>
      <TintCalculator
        v-if="glass"
        :id="chosen.id"
        :document="document"
        :material="glass"
        @set="(key, value) => set.put(document, `${chosen!.pointer}/${key}`, value)"
      />
      <ReliefReader
        v-if="relief"
        :id="chosen.id"
        :document="document"
        :version="shot.state!.head.id"
        :material="relief"
        @set="(key, value) => set.put(document, `${chosen!.pointer}/${key}`, value)"
      />
    </div>
    <div v-else class="items">
      <p v-if="groups.length === 0" class="dim none">
        Nothing in the scene matches “{{ search }}”. Samples and limits are under Sheets.
      </p>
      <p v-if="marked.length > 1" class="marked">
        {{ marked.length }} marked
        <Button size="small" @click="open(marked)">Edit together</Button>
        <Button severity="secondary" variant="text" size="small" @click="marked = []">None</Button>
      </p>
      <p v-else-if="words && found.length > 1" class="marked">
        <Button
          severity="secondary"
          variant="text"
          size="small"
          title="Opens all that are found as one; Ctrl-click marks some"
          @click="open(found)"
          >Edit the {{ found.length }} found together</Button
        >
      </p>
      <Listbox
        v-if="groups.length"
        :model-value="marked"
        multiple
        meta-key-selection
        :options="groups"
        option-label="name"
        option-value="pointer"
        option-group-label="name"
        option-group-children="items"
        scroll-height="none"
        aria-label="Items of the scene"
        @change="mark"
      >
        <template #optiongroup="{ option }"
          >{{ option.name }} <span class="dim num">{{ option.all }}</span><template
            v-if="option.all > option.items.length"
            >, the first {{ option.items.length }}; type to find the others</template
          ></template
        >
        <template #option="{ option }">
          <span>{{ option.name }}</span><span class="dim">{{ option.id }}</span>
        </template>
      </Listbox>
    </div>
    <SweepDialog
      v-if="sweeping && chosen"
      :control="{
        ...sweeping,
        label: `${chosen.name} ${sweeping.label.toLowerCase()}`,
        none: sweeping.optional ? 'any' : undefined,
      }"
      :value="sweeping.value as SweepValue"
      :sheet="current.sheetName"
      :set-for="setFor(sweeping)"
      @closed="sweeping = null"
    />
    <footer v-if="changes" role="status">
      <span :title="told"> {{ changes }} {{ changes === 1 ? 'value' : 'values' }} set, not kept yet </span>
      <span class="gap"></span>
      <Button severity="secondary" variant="text" @click="discard">Discard</Button>
      <Button
        :disabled="!current.region"
        :title="current.region ? 'Render the region with and without' : 'Draw a region first'"
        @click="tryOut"
      >
        Try here
      </Button>
      <Button severity="secondary" variant="outlined" @click="keep">Keep untried</Button>
    </footer>
  </section>
</template>

<style scoped>
.scene {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  height: 100%;
}
.search {
  display: flex;
  gap: 8px;
  padding: 8px 14px 6px;
}
.title > :last-child {
  margin-left: auto;
}
.items,
.controls {
  overflow: auto;
  padding: 0 14px 10px;
}
.items {
  padding-inline: 0;
}
.items :deep(.p-listbox-option) {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
.marked {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 2px 14px 6px;
  font-size: var(--small);
}
.title {
  display: flex;
  gap: 10px;
  align-items: baseline;
  padding: 6px 0;
  border-bottom: 1px solid #2c2c2c;
  font-size: var(--small);
}
.back {
  color: var(--soft);
}
.back:hover {
  color: var(--text);
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 178px;
  gap: 8px;
  align-items: center;
  padding: 3px 0;
  font-size: var(--small);
}
.told {
  grid-column: 1 / -1;
  margin-top: -6px;
}
.row.wide {
  grid-template-columns: 74px minmax(0, 1fr);
}
.label small {
  margin-left: 5px;
}
.label {
  position: relative;
  color: var(--soft);
}
.found .label {
  color: var(--text);
  font-weight: 600;
}
.row.pointed {
  background: var(--up);
  box-shadow:
    -6px 0 var(--up),
    -8px 0 var(--act);
}
.row.changed :deep(button.sweep) {
  right: 16px;
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
.reset:hover {
  color: var(--text);
}
.none {
  padding: 8px 0;
  font-size: var(--small);
}
footer {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 8px 14px;
  border-top: 1px solid var(--line);
  background: var(--up);
  font-size: var(--small);
}
</style>
