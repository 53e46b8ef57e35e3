<script setup lang="ts">
/** One finding: the cause, why, the evidence, its dials, and its remedies with what they are predicted to do. */
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import Skeleton from 'primevue/skeleton';
import { computed, ref } from 'vue';
import type { FindingSummary } from '../../../core/contracts/events.ts';
import { passName } from '../../format.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';
import DialTable from '../controls/DialTable.vue';
import RemedyTable from './RemedyTable.vue';
import EvidenceList from './evidence/EvidenceList.vue';

const props = defineProps<{ item: FindingSummary }>();
const shot = useShot();
const view = useView();
const isAsking = ref(false);
const reason = ref('');
/** Characters of three lines: what is longer is folded. */
const LONG = 170;
const isOpen = ref(false);

/** Null until it is here. */
const finding = computed(() => shot.findingInFull(props.item.id));

/** Pixels about a place that is jumped to. */
const ABOUT = 16;
function jumpTo(x: number, y: number): void {
  view.region = { x: Math.max(0, x - ABOUT), y: Math.max(0, y - ABOUT), width: 2 * ABOUT, height: 2 * ABOUT };
}

async function putAside(): Promise<void> {
  if (await shot.putAside(props.item, reason.value.trim())) isAsking.value = false;
}
</script>

<template>
  <article v-if="!finding" role="status" aria-label="Loading the finding">
    <Skeleton height="2rem" /><Skeleton height="8rem" />
  </article>
  <article v-else>
    <h2 class="headline">{{ finding.headline }}</h2>
    <p class="why" :class="{ folded: !isOpen }">{{ finding.why }}</p>
    <Button
      v-if="finding.why.length > LONG"
      severity="secondary"
      variant="text"
      class="aside"
      :aria-expanded="isOpen"
      @click="isOpen = !isOpen"
    >
      {{ isOpen ? 'Less' : 'Why, in full' }}
    </Button>
    <RemedyTable v-if="finding.remedies.length" :item="item" :remedies="finding.remedies" />
    <p v-if="finding.where.passes.length" class="shown dim">
      Seen in
      <Button v-for="pass in finding.where.passes" :key="pass" unstyled class="bare link" @click="view.pass = pass">
        {{ passName(pass) }}
      </Button>
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
      Dismissed: {{ item.aside }} <Button severity="secondary" variant="text" @click="shot.takeUp(item)">Reopen</Button>
    </p>
    <form v-else-if="isAsking" class="ask" @submit.prevent="putAside">
      <label for="aside">Why it doesn’t matter here</label>
      <InputText id="aside" v-model="reason" size="small" maxlength="500" required autofocus />
      <Button severity="secondary" variant="outlined" type="submit" :disabled="!reason.trim()">Dismiss</Button>
      <Button severity="secondary" variant="text" @click="isAsking = false">Cancel</Button>
    </form>
    <Button v-else severity="secondary" variant="text" class="aside" @click="isAsking = true">Dismiss …</Button>
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
.headline {
  font-size: 1.08rem;
  line-height: 1.3;
}
.why {
  color: var(--soft);
  font-size: var(--small);
  line-height: 1.35;
}
.why.folded {
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 3;
  line-clamp: 3;
  overflow: hidden;
}
.shown {
  font-size: var(--small);
}
.link {
  border-bottom: 1px dotted #6a6a6a;
  color: var(--soft);
  margin-right: 8px;
}
.link:hover {
  color: var(--text);
}
.ask {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 6px;
  font-size: var(--small);
}
.ask label {
  grid-column: 1 / -1;
  color: var(--soft);
}
.aside {
  align-self: flex-start;
  margin-left: -7px;
}
</style>
