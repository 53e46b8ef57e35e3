<script setup lang="ts">
/** One finding: the cause, why, the evidence, its dials, and its remedies with what they are predicted to do. */
import { computed, ref } from 'vue';
import type { FindingSummary, TrialSummary } from '../../../core/contracts/events.ts';
import type { Remedy } from '../../../core/contracts/finding.ts';
import { alikeItems, forItems } from '../../../core/document/alike-items.ts';
import { pointerOf } from '../../../core/document/pointers.ts';
import { tellEffect } from '../../effect-words.ts';
import { passName } from '../../format.ts';
import { useCurrent } from '../../stores/current.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import DialTable from '../controls/DialTable.vue';
import EvidenceList from './evidence/EvidenceList.vue';

const props = defineProps<{ item: FindingSummary }>();
const shot = useShot();
const view = useView();
const current = useCurrent();
const isAsking = ref(false);
const reason = ref('');
const busy = ref('');

/** Null until it is here. */
const finding = computed(() => shot.findingInFull(props.item.id));

/** Remedies that are shown at once; the rest is asked for. */
const FIRST = 4;
const isWhole = ref(false);
const remedies = computed(() => finding.value?.remedies ?? []);
const shown = computed(() => (isWhole.value ? remedies.value : remedies.value.slice(0, FIRST)));

/** Of remedies that do the same thing to several items, those that it is tried for; all until some are left out. */
const left = ref<Record<string, string[]>>({});
const valuesOf = ({ change }: Remedy) => (change?.kind === 'values' ? change.values : {});
const itemsOf = (remedy: Remedy) => alikeItems(valuesOf(remedy));
const chosenOf = (remedy: Remedy) => itemsOf(remedy).filter((item) => !left.value[remedy.id]?.includes(item));
function choose(remedy: Remedy, item: string, isIn: boolean): void {
  const others = (left.value[remedy.id] ?? []).filter((other) => other !== item);
  left.value = { ...left.value, [remedy.id]: isIn ? others : [...others, item] };
}
function nameOf(item: string): string {
  const [, part, id] = item.split('/') as [string, 'objects' | 'materials' | 'lights', string];
  return shot.state!.document[part]?.[id]?.name || id;
}
const isPart = (remedy: Remedy) => chosenOf(remedy).length < itemsOf(remedy).length;
/** Whether a trial tries it for the items that are chosen. */
function isOfChosen(remedy: Remedy, { patch }: TrialSummary): boolean {
  const set = patch.filter((step) => step.op !== 'test').map(({ path }) => pointerOf(path));
  const wanted = Object.keys(forItems(valuesOf(remedy), chosenOf(remedy)));
  return itemsOf(remedy).every((item) => {
    const inside = (pointer: string) => pointer.startsWith(`${item}/`);
    return set.some(inside) === wanted.some(inside);
  });
}

/** The trial of a remedy that is running or was measured last, if it is about the shot as it is. */
const trialOf = (remedy: Remedy) =>
  shot.state!.trials.findLast(
    (t) =>
      t.findingId === props.item.id &&
      t.remedyId === remedy.id &&
      t.version === shot.state!.head.number &&
      isOfChosen(remedy, t),
  );

/** Pixels about a place that is jumped to. */
const ABOUT = 16;
function jumpTo(x: number, y: number): void {
  view.region = { x: Math.max(0, x - ABOUT), y: Math.max(0, y - ABOUT), width: 2 * ABOUT, height: 2 * ABOUT };
}

async function tryOut(remedy: Remedy): Promise<void> {
  busy.value = remedy.id;
  const trial = await shot.tryOut({
    finding: props.item.id,
    remedy: remedy.id,
    region: view.region,
    sheet: props.item.sheet,
    values: null,
    ...(isPart(remedy) ? { only: chosenOf(remedy) } : {}),
  });
  busy.value = '';
  if (trial) view.trialId = trial.id;
}

async function putAside(): Promise<void> {
  if (await shot.putAside(props.item, reason.value.trim())) isAsking.value = false;
}
</script>

<template>
  <article v-if="!finding" role="status" class="dim">Fetching the finding …</article>
  <article v-else>
    <h3>{{ finding.headline }}</h3>
    <p class="why">{{ finding.why }}</p>
    <ul class="remedies">
      <li v-for="(remedy, i) in shown" :key="remedy.id">
        <div>
          <b>{{ remedy.title }}</b>
          <span v-if="remedy.predicted" class="num">{{ tellEffect(remedy.predicted) }}</span>
          <span v-else class="dim">foretold when it is tried</span>
          <span v-if="remedy.note" class="note">{{ remedy.note }}</span>
          <details v-if="itemsOf(remedy).length" class="items">
            <summary>
              for {{ isPart(remedy) ? `${chosenOf(remedy).length} of ` : 'all ' }}{{ itemsOf(remedy).length
              }}<template v-if="isPart(remedy)">: foretold when it is tried</template>
            </summary>
            <label v-for="one in itemsOf(remedy)" :key="one">
              <input
                type="checkbox"
                :checked="chosenOf(remedy).includes(one)"
                :disabled="chosenOf(remedy).length === 1 && chosenOf(remedy)[0] === one"
                @change="choose(remedy, one, ($event.target as HTMLInputElement).checked)"
              />
              {{ nameOf(one) }} <span class="dim">{{ one.split('/')[2] }}</span>
            </label>
          </details>
        </div>
        <button
          v-if="trialOf(remedy) && trialOf(remedy)!.state !== 'stopped' && trialOf(remedy)!.state !== 'failed'"
          class="plain"
          @click="view.trialId = trialOf(remedy)!.id"
        >
          Trial {{ trialOf(remedy)!.number }}
        </button>
        <button
          v-else
          class="plain"
          :class="{ act: i === 0 && item.aside === null }"
          :disabled="busy !== ''"
          :title="`Renders ${current.region?.width} × ${current.region?.height} pixels with and without it`"
          @click="tryOut(remedy)"
        >
          Try here
        </button>
      </li>
    </ul>
    <button v-if="remedies.length > FIRST" class="flat aside" @click="isWhole = !isWhole">
      {{ isWhole ? 'Fewer remedies' : `${remedies.length - FIRST} more` }}
    </button>
    <p v-if="finding.where.passes.length" class="shown dim">
      Seen in
      <button v-for="pass in finding.where.passes" :key="pass" class="bare link" @click="view.pass = pass">
        {{ passName(pass) }}
      </button>
    </p>
    <p v-if="finding.check" class="shown dim">
      Seen by preflight:
      <RouterLink :to="{ name: 'intake', params: { code: shot.state!.code }, query: { check: finding.check } }">{{
        finding.check
      }}</RouterLink>
    </p>
    <EvidenceList :evidence="finding.evidence" @place="jumpTo" />
    <DialTable v-if="finding.dials.length" :needs="finding.dials" />
    <p v-if="item.aside !== null" class="dim">
      Dismissed: {{ item.aside }} <button class="flat" @click="shot.takeUp(item)">Reopen</button>
    </p>
    <form v-else-if="isAsking" class="ask" @submit.prevent="putAside">
      <label for="aside">Why it does not matter here</label>
      <input id="aside" v-model="reason" maxlength="500" required autofocus />
      <button class="plain" type="submit" :disabled="!reason.trim()">Dismiss</button>
      <button class="flat" type="button" @click="isAsking = false">Cancel</button>
    </form>
    <button v-else class="flat aside" @click="isAsking = true">Dismiss …</button>
  </article>
</template>

<style scoped>
article {
  border-top: 1px solid var(--line);
  padding-top: 8px;
  display: flex;
  flex-direction: column;
  gap: 5px;
}
.why {
  color: var(--soft);
  font-size: 12px;
  line-height: 1.35;
}
.shown {
  font-size: 11.5px;
}
.link {
  border-bottom: 1px dotted #6a6a6a;
  color: var(--soft);
  margin-right: 8px;
}
.link:hover {
  color: var(--text);
}
.remedies {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
}
.remedies li > div {
  min-width: 0;
}
.remedies li > button {
  flex: none;
}
.remedies li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  background: var(--up);
  padding: 4px 8px 4px 10px;
  border-radius: 3px;
}
.remedies b,
.remedies span {
  display: block;
}
.remedies span {
  font-size: 12px;
  color: var(--soft);
}
.remedies span {
  white-space: normal;
}
.remedies .note {
  color: var(--dim);
  font-size: 11px;
}
.items summary {
  font-size: 11.5px;
  color: var(--soft);
  cursor: pointer;
}
.items label {
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: 12px;
}
.items label span {
  display: inline;
  font-size: 11px;
}
.items input {
  accent-color: var(--act);
}
.ask {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 6px;
  font-size: 12px;
}
.ask label {
  grid-column: 1 / -1;
  color: var(--soft);
}
.ask input {
  font: inherit;
  color: var(--text);
  background: var(--out);
  border: 1px solid #5a5a5a;
  border-radius: 3px;
  padding: 3px 8px;
}
.aside {
  align-self: flex-start;
  margin-left: -7px;
}
</style>
