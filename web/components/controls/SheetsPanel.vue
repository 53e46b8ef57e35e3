<script setup lang="ts">
/**
 * Both sheets, dial beside dial. A value that is set waits at the foot of the panel: it can be tried on the
 * region first, or set at once. What a limit cuts, and what overrides it, stands at the dial.
 */
import { RotateCcw } from '@lucide/vue';
import pretty from 'pretty-bytes';
import Button from 'primevue/button';
import Checkbox from 'primevue/checkbox';
import InputText from 'primevue/inputtext';
import { storeToRefs } from 'pinia';
import { computed, nextTick, ref, watch } from 'vue';
import {
  DIAL_GROUPS,
  DIALS,
  dialValue,
  isSameValue,
  overriddenBy,
  type Dial,
  type DialValue,
} from '../../../core/document/dials.ts';
import type { SheetName } from '../../../core/document/schema.ts';
import { presetText, presetValues } from '../../../core/document/sheet-preset.ts';
import { canSweep, type SweepValue } from '../../../core/predict/sweep.ts';
import { beyondNeed } from '../../beyond-need.ts';
import { percent } from '../../format.ts';
import { useChosenAlone } from '../../chosen-alone.ts';
import { pickFile } from '../../remote/pick-file.ts';
import { saveFile } from '../../remote/save-file.ts';
import { useMessages } from '../../stores/messages.ts';
import { beginScrub } from '../../scrub.ts';
import { useSetValuesCommands } from '../../set-values-commands.ts';
import { useCurrent } from '../../stores/current.ts';
import { usePending } from '../../stores/pending.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import MoreMenu from '../shared/MoreMenu.vue';
import ControlField from './ControlField.vue';
import SweepDialog from '../trials/SweepDialog.vue';

const SHEETS: SheetName[] = ['preview', 'final'];
/** One dial carried from one sheet to the other. */
const CARRIES: [SheetName, SheetName, string][] = [['preview', 'final', '→ final'], ['final', 'preview', '← preview']]; // prettier-ignore

const shot = useShot();
const view = useView();
const current = useCurrent();
const list = ref<HTMLElement | null>(null);
const { sheets: pending } = storeToRefs(usePending());

const sheets = computed(() => shot.state!.document.sheets);
const stored = (sheet: SheetName, dial: Dial) => dialValue(sheets.value[sheet], dial.pointer);
const shown = (sheet: SheetName, dial: Dial) => {
  const own = pending.value[sheet][dial.pointer];
  return own === undefined ? stored(sheet, dial) : own;
};
const shownNumber = (sheet: SheetName, dial: Dial) => {
  const value = shown(sheet, dial);
  return typeof value === 'number' ? value : null;
};
const differs = (dial: Dial) => !isSameValue(shown('preview', dial), shown('final', dial));
const search = ref('');
const isFound = (dial: Dial) =>
  `${dial.label} ${dial.group} ${dial.help}`.toLowerCase().includes(search.value.trim().toLowerCase());
const groups = computed(() =>
  DIAL_GROUPS.map((name) => ({ name, dials: DIALS.filter((d) => d.group === name && isFound(d)) })).filter(
    (group) => group.dials.length > 0,
  ),
);
const differing = computed(() => DIALS.filter(differs).length);
const changedSheets = computed(() => SHEETS.filter((sheet) => Object.keys(pending.value[sheet]).length > 0));
const changes = computed(() => changedSheets.value.reduce((sum, s) => sum + Object.keys(pending.value[s]).length, 0));

function put(sheet: SheetName, dial: Dial, value: DialValue | undefined): void {
  if (value === undefined || (value === null && dial.none === undefined)) return;
  // Samples come in fours.
  const whole = dial.step === 4 ? Math.max(dial.min!, Math.round(Number(value) / 4) * 4) : value;
  if (isSameValue(whole, stored(sheet, dial))) delete pending.value[sheet][dial.pointer];
  else pending.value[sheet][dial.pointer] = whole;
}

/** Dragged sideways, a name moves the preview's number. */
function scrub(event: PointerEvent, dial: Dial): void {
  const from = shownNumber('preview', dial);
  if (from !== null) beginScrub(event, dial, from, (value) => put('preview', dial, value));
}

/** Share of path weight, or of light, that a dial takes in the picture that is up. */
function taken(cut: string): number {
  if (!current.figures) return 0;
  return cut === 'clamped' ? current.figures.clamped : current.figures.cuts[cut.slice(4)];
}

/** What was found of limits is asked for once one is set. */
const beyond = computed(() => {
  const isAsked = changedSheets.value.some((sheet) => Object.keys(pending.value[sheet]).some((pointer) => pointer.startsWith('/limits/'))); // prettier-ignore
  const found = isAsked ? current.findings.filter(({ family }) => family === 'limits').flatMap(({ id }) => shot.findingInFull(id) ?? []) : []; // prettier-ignore
  return [...new Set(changedSheets.value.flatMap((sheet) => beyondNeed(pending.value[sheet], found)))];
});

const sweeping = ref<Dial | null>(null);
/** The size and the seed change which pixels and which chance are compared; a target changes nothing in the picture. */
const isSwept = (dial: Dial) =>
  canSweep(dial) && !['/width', '/height', '/seed'].includes(dial.pointer) && dial.group !== 'Target';

/** A dial as the field of a control takes it. */
const fieldOf = (dial: Dial) => ({ ...dial, optional: dial.none !== undefined, digits: dial.digits ?? 0 });

const discard = () => (pending.value = { preview: {}, final: {} });

async function render(sheet: SheetName): Promise<void> {
  if (!(await shot.renderSheet(sheet))) return;
  view.renderId = null;
  view.trialId = null;
}

async function set(): Promise<void> {
  for (const sheet of changedSheets.value) {
    const base = shot.state!.head.id;
    if (!(await shot.setDials([sheet], pending.value[sheet]))) return;
    pending.value[sheet] = {};
    // The second sheet's change stands on the first's version.
    if (changedSheets.value.length) await until(() => shot.state!.head.id !== base);
  }
}

function until(holds: () => boolean): Promise<void> {
  return new Promise((resolve) => {
    const stop = watch(
      holds,
      (now) => {
        if (!now) return;
        void nextTick(() => stop());
        resolve();
      },
      { immediate: true },
    );
  });
}

const alone = useChosenAlone();
async function tryOut(): Promise<void> {
  const sheet = changedSheets.value[0];
  const trial = await shot.tryOut({
    finding: null,
    remedy: null,
    region: current.region,
    sheet,
    values: pending.value[sheet],
    ...(alone.objects.value && { objects: alone.objects.value }),
  });
  if (trial) view.trialId = trial.id;
}

const canTry = computed(() => changedSheets.value.length === 1 && current.region !== null);
useSetValuesCommands('the sheets', changes, () => ({
  discard,
  tryHere: canTry.value ? tryOut : undefined,
  keep: alone.objects.value === null ? set : undefined,
}));

const copyOver = (from: SheetName, to: SheetName) => {
  for (const dial of DIALS)
    if (dial.group !== 'Picture' && dial.group !== 'Target' && dial.pointer !== '/samples')
      put(to, dial, shown(from, dial));
};

const messages = useMessages();
const SIZE = 200_000;
/** Values of a preset wait to be kept like any that are set by hand. */
async function load(into: SheetName): Promise<void> {
  const file = await pickFile('.json,application/json');
  if (!file) return;
  try {
    if (file.size > SIZE) throw new Error(`${file.name} is no preset of a sheet: it has ${pretty(file.size)}.`);
    const { name, values } = presetValues(await file.text(), shot.state!.document, into);
    for (const [pointer, value] of Object.entries(values)) pending.value[into][pointer] = value as DialValue;
    const n = Object.keys(values).length;
    messages.done(n === 0 ? `${name || file.name}: the ${into} sheet has these values already.` : `${name || file.name}: ${n} ${n === 1 ? 'value' : 'values'} set in the ${into} sheet, not kept yet.`); // prettier-ignore
  } catch (error) {
    messages.failed((error as Error).message);
  }
}
function save(sheet: SheetName): void {
  const { code, document } = shot.state!;
  saveFile(`${code} ${sheet} sheet.json`, presetText(`${code} ${sheet}`, document.sheets[sheet]));
}
const menuItems = [
  { label: 'Copy preview to final, but size, samples and target', command: () => copyOver('preview', 'final') },
  { label: 'Copy final to preview, but size, samples and target', command: () => copyOver('final', 'preview') },
  { separator: true },
  ...SHEETS.map((sheet) => ({ label: `Save ${sheet} as a preset file`, command: () => save(sheet) })),
  ...SHEETS.map((sheet) => ({ label: `Load a preset into ${sheet} …`, command: () => void load(sheet) })),
];

watch(
  () => [view.panel, view.dial, list.value],
  async () => {
    if (view.panel !== 'sheets' || !view.dial) return;
    search.value = '';
    await nextTick();
    const row = list.value?.querySelector<HTMLElement>(`[data-dial="${view.dial}"]`);
    row?.scrollIntoView({ block: 'center' });
    row?.querySelector('input')?.focus();
  },
  { immediate: true },
);
</script>

<template>
  <section class="sheets" aria-label="Sheets">
    <p class="dim intro">
      {{ differing ? `${differing} dials differ, marked ≠.` : 'Both sheets are alike.' }}
      <MoreMenu name="sheets: copy, presets" :items="menuItems" />
    </p>
    <div class="search">
      <InputText
        v-model="search"
        size="small"
        placeholder="Find a control"
        aria-label="Find a control of the sheets"
        fluid
      />
    </div>
    <div ref="list" class="rows">
      <p v-if="groups.length === 0" class="dim none">
        No control of the sheets matches “{{ search }}”. Lights, materials and objects are under Scene.
      </p>
      <div class="row head">
        <span></span>
        <span v-for="sheet in SHEETS" :key="sheet">
          {{ sheet }}
          <Button
            severity="secondary"
            variant="outlined"
            :title="`Render the ${sheet} sheet of version ${shot.state!.head.number}`"
            @click="render(sheet)"
          >
            Render
          </Button>
        </span>
      </div>
      <template v-for="group in groups" :key="group.name">
        <h2>{{ group.name }}</h2>
        <div
          v-for="dial in group.dials"
          :key="dial.pointer"
          class="row"
          :class="{ pointed: view.dial === dial.pointer }"
          :data-dial="dial.pointer"
        >
          <span v-tooltip.left="dial.help" class="label" tabindex="-1">
            <span
              :class="{ differs: differs(dial), scrub: shownNumber('preview', dial) !== null }"
              @pointerdown="scrub($event, dial)"
              >{{ dial.label }}</span
            >
            <span class="dim unit">{{ dial.unit }}</span>
            <span v-if="overriddenBy(sheets.preview, dial.pointer)" class="tag">
              preview: {{ overriddenBy(sheets.preview, dial.pointer) }}
            </span>
            <span v-if="overriddenBy(sheets.final, dial.pointer)" class="tag">
              final: {{ overriddenBy(sheets.final, dial.pointer) }}
            </span>
            <Button
              v-if="dial.cut && taken(dial.cut) > 0"
              unstyled
              class="bare cut"
              title="Show the pass"
              @click="view.pass = dial.cut!"
            >
              {{ dial.cut === 'clamped' ? 'takes' : 'cuts' }} {{ percent(taken(dial.cut)) }} here
            </Button>
            <Button
              v-if="isSwept(dial)"
              unstyled
              class="bare sweep"
              :aria-label="`Sweep ${dial.label.toLowerCase()}`"
              title="Several values beside each other, on the region"
              @click="sweeping = dial"
            >
              sweep …
            </Button>
            <template v-if="differs(dial)">
              <Button
                v-for="[from, to, text] in CARRIES"
                :key="text"
                unstyled
                class="bare carry"
                :aria-label="`Carry ${dial.label.toLowerCase()} from ${from} to ${to}`"
                :title="`Set it in ${to} as in ${from}`"
                @click="put(to, dial, shown(from, dial))"
                >{{ text }}</Button
              >
            </template>
          </span>
          <span v-for="sheet in SHEETS" :key="sheet" :class="{ changed: pending[sheet][dial.pointer] !== undefined }">
            <ControlField
              :control="fieldOf(dial)"
              :value="shown(sheet, dial)"
              :called="`${dial.label}, ${sheet}`"
              is-narrow
              @set="put(sheet, dial, $event as DialValue)"
            />
            <Button
              v-if="pending[sheet][dial.pointer] !== undefined"
              unstyled
              class="bare reset"
              :class="{ right: dial.kind === 'colour' }"
              :aria-label="`Reset ${dial.label.toLowerCase()}, ${sheet}`"
              :title="`Back to ${stored(sheet, dial) ?? dial.none}`"
              @click="put(sheet, dial, stored(sheet, dial))"
            >
              <RotateCcw :size="12" aria-hidden="true" />
            </Button>
          </span>
        </div>
      </template>
    </div>
    <SweepDialog
      v-if="sweeping"
      :control="sweeping"
      :value="stored(current.sheetName, sweeping) as SweepValue"
      :sheet="current.sheetName"
      @closed="sweeping = null"
    />
    <footer v-if="changes" role="status">
      <label
        v-if="alone.name.value"
        class="alone"
        title="A second render of what is chosen, with these values, is added to one of the rest without them"
      >
        <Checkbox v-model="alone.isWanted.value" binary size="small" /> Try on {{ alone.name.value }} alone
      </label>
      <span class="said">
        {{ changes }} {{ changes === 1 ? 'value' : 'values' }} set, not kept yet
        <span v-for="one in beyond" :key="one" class="beyond">{{ one }}</span>
      </span>
      <Button severity="secondary" variant="text" @click="discard">Discard</Button>
      <Button
        :disabled="!canTry"
        :title="changedSheets.length > 1 ? 'A trial is of one sheet' : 'Render the region with and without'"
        @click="tryOut"
      >
        Try here
      </Button>
      <Button
        severity="secondary"
        variant="outlined"
        :disabled="alone.objects.value !== null"
        :title="alone.objects.value ? 'No one version has values for some objects alone' : undefined"
        @click="set"
        >Keep untried</Button
      >
    </footer>
  </section>
</template>

<style scoped>
.sheets {
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr) auto;
  height: 100%;
}
.intro {
  padding: 6px 14px;
  display: flex;
  justify-content: space-between;
  align-items: center;
  font-size: var(--small);
}
.search {
  padding: 0 14px 6px;
}
.none {
  padding: 10px 0;
}
.rows {
  overflow: auto;
  padding: 0 14px 10px;
}
h2 {
  font-size: var(--small);
  font-weight: 400;
  color: var(--dim);
  padding: 8px 0 2px;
  border-bottom: 1px solid #2c2c2c;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 92px 92px;
  gap: 8px;
  align-items: center;
  padding: 3px 0;
}
/* Names before boxes, in a panel of a window that is 1024 wide. */
@media (max-width: 1180px) {
  .row {
    grid-template-columns: minmax(0, 1fr) 74px 74px;
  }
}
.row.head button {
  font-size: var(--small);
  padding: 1px 6px;
  display: block;
  margin: 2px 0 0 auto;
}
.row.head {
  color: var(--dim);
  font-size: var(--small);
  text-align: right;
  padding-top: 6px;
}
.row.pointed {
  background: var(--up);
  box-shadow:
    -6px 0 var(--up),
    -8px 0 var(--act);
}
.label {
  position: relative;
  display: flex;
  flex-wrap: wrap;
  gap: 0 6px;
  align-items: baseline;
  font-size: var(--small);
}
.unit {
  font-size: var(--small);
}
.cut {
  font-size: var(--small);
  color: var(--care);
  border-bottom: 1px dotted;
}
.carry {
  font-size: var(--small);
  color: var(--soft);
  border-bottom: 1px dotted;
}
.carry:hover {
  color: var(--text);
}
.row > span {
  position: relative;
}
.reset {
  position: absolute;
  left: 4px;
  top: 50%;
  transform: translateY(-50%);
  color: var(--soft);
}
.reset.right {
  left: auto;
  right: 2px;
}
.reset:hover {
  color: var(--text);
}
.row :deep(input) {
  width: 100%;
  text-align: right;
  font-size: var(--small);
}
.row :deep(.p-select) {
  width: 100%;
}
.row :deep(.p-select-label) {
  font-size: var(--small);
  padding-inline: 6px 0;
}
.row :deep(.p-select-dropdown) {
  width: 20px;
}
.changed :deep(input),
.changed :deep(.p-select) {
  border-color: var(--act);
}
footer {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  padding: 8px 14px;
  border-top: 1px solid var(--line);
  background: var(--up);
  font-size: var(--small);
}
.alone {
  flex: 1 0 100%;
  display: flex;
  gap: 5px;
  align-items: center;
}
.said {
  flex: 1 1 0;
}
.beyond {
  display: block;
  color: var(--care);
}
</style>
