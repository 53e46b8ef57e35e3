<script setup lang="ts">
/** Checks by what goes wrong, those that tell something first to the eye, with expected beside found. */
import { computed, watch } from 'vue';
import type { PreflightCheck } from '../../../core/contracts/intake.ts';

const props = defineProps<{ checks: PreflightCheck[]; find: string; all: boolean }>();
const chosen = defineModel<string | null>('chosen', { required: true });

const shown = computed(() => {
  const words = props.find.toLowerCase().split(/\s+/).filter(Boolean);
  return props.checks.filter((check) => {
    const isTold = check.state === 'stop' || check.state === 'caution';
    if (words.length === 0) return isTold || props.all;
    const text = [check.id, check.title, check.found, ...check.offenders.map((o) => `${o.object} ${o.detail}`)];
    const whole = text.join(' ').toLowerCase();
    return words.every((word) => whole.includes(word));
  });
});
const groups = computed(() => {
  const names = [...new Set(shown.value.map(({ group }) => group))];
  return names.map((name) => ({ name, checks: shown.value.filter(({ group }) => group === name) }));
});
const order = computed(() => groups.value.flatMap(({ checks }) => checks));

/** Another check of those on screen. */
function step(by: number): void {
  const list = order.value;
  if (list.length === 0) return;
  const at = list.findIndex(({ id }) => id === chosen.value);
  chosen.value = list[at < 0 ? 0 : (at + by + list.length) % list.length].id;
  document.getElementById(`check-${chosen.value}`)?.scrollIntoView({ block: 'nearest' });
}
watch(
  () => order.value.map(({ id }) => id).join(' '),
  () => {
    if (order.value.length && !order.value.some(({ id }) => id === chosen.value))
      chosen.value = (order.value.find(({ state }) => state === 'stop') ?? order.value[0]).id;
  },
  { immediate: true },
);
defineExpose({ step });

/** What was found, and in what, as far as there is room. */
const foundIn = ({ found, offenders, state }: PreflightCheck): string =>
  state === 'clear' || state === 'not-run' || offenders.length === 0 || offenders.length > 3
    ? found
    : `${found}: ${offenders.map(({ object }) => object.replace(/^\//, '')).join(', ')}`;
const inTold = ({ offenders, state }: PreflightCheck): string =>
  state === 'clear' || state === 'not-run' || offenders.length === 0 ? '' : `${offenders.length}`;
</script>

<template>
  <div class="table">
    <div class="head dim" aria-hidden="true">
      <span></span><span>check</span><span>expected</span><span>found</span><span class="right">in</span>
    </div>
    <p v-if="order.length === 0" class="empty soft">
      {{
        find ? `No check and no offender is called "${find}".` : 'Nothing to tell: every check that could run is clear.'
      }}
    </p>
    <section v-for="group in groups" :key="group.name" :aria-label="group.name">
      <h3>{{ group.name }}</h3>
      <button
        v-for="check in group.checks"
        :id="`check-${check.id}`"
        :key="check.id"
        class="bare row"
        :class="{ on: check.id === chosen }"
        :aria-pressed="check.id === chosen"
        @click="chosen = check.id"
      >
        <span class="severity" :class="check.state">{{ check.state === 'not-run' ? 'not run' : check.state }}</span>
        <span>{{ check.title }}</span>
        <span class="soft cut" :title="check.expected">{{ check.expected }}</span>
        <span class="soft cut" :title="foundIn(check)">{{ foundIn(check) }}</span>
        <span class="right num">{{ inTold(check) }}</span>
      </button>
    </section>
  </div>
</template>

<style scoped>
.table {
  overflow: auto;
  min-height: 0;
}
.head,
.row {
  display: grid;
  grid-template-columns: 70px minmax(0, 5fr) minmax(0, 4fr) minmax(0, 5fr) 36px;
  gap: 0 12px;
  align-items: center;
  padding: 0 16px;
}
.head {
  position: sticky;
  top: 0;
  background: var(--out);
  font-size: 11px;
  height: 26px;
  border-bottom: 1px solid var(--line);
}
h3 {
  font-size: 11px;
  font-weight: 400;
  color: var(--dim);
  padding: 12px 16px 4px;
}
button.row {
  width: 100%;
  min-height: 28px;
}
.row:hover {
  background: var(--panel);
}
.row.on {
  background: var(--up);
}
.cut {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.right {
  text-align: right;
}
.severity.clear,
.severity.not-run {
  color: var(--dim);
  border-color: transparent;
}
.empty {
  padding: 24px 16px;
}
</style>
