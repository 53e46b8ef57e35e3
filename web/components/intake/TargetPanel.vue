<script setup lang="ts">
/** The shot against the renderer that it is for: what is lost, what to type in there, what comes before the first frame. */
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import { computed } from 'vue';
import type { TargetFit, TargetLoss } from '../../../core/contracts/intake.ts';
import { duration, number } from '../../format.ts';

const props = defineProps<{ fit: TargetFit | null; find: string }>();
const chosen = defineModel<string | null>('chosen', { required: true });
const shown = computed(() => {
  const words = props.find.toLowerCase().split(/\s+/).filter(Boolean);
  return (props.fit?.losses ?? []).filter(({ title, fate, items, looks }) => {
    const text = [title, fate, looks, ...items.map(({ object, detail }) => `${object} ${detail}`)].join(' ');
    return words.every((word) => text.toLowerCase().includes(word));
  });
});
const severity = ({ fate }: TargetLoss): string =>
  fate === 'dropped' ? 'stop' : fate === 'translated' ? 'note' : 'caution';
const selection = computed({
  get: () => shown.value.find(({ id }) => id === chosen.value) ?? null,
  set: (loss) => loss && (chosen.value = loss.id),
});
const before = computed(() => (props.fit?.before ?? []).reduce((sum, { seconds }) => sum + seconds, 0));
</script>

<template>
  <div class="target">
    <p v-if="!fit" class="empty soft">
      Choose the renderer this shot goes to: what it drops, bakes or replaces is listed, and a trial shows what each
      looks like.
    </p>
    <template v-else>
      <p class="soft about">{{ fit.about }}</p>
      <p v-if="shown.length === 0" class="soft about">
        {{ find ? `Nothing here matches “${find}”.` : `${fit.target} does all that this shot asks for.` }}
      </p>
      <DataTable
        v-else
        v-model:selection="selection"
        :value="shown"
        data-key="id"
        selection-mode="single"
        :meta-key-selection="false"
        size="small"
        class="losses"
        :table-props="{ 'aria-label': 'What it does not do' }"
        @row-unselect="({ data }) => (chosen = data.id)"
      >
        <Column header="" class="fate">
          <template #body="{ data }"
            ><span class="severity" :class="severity(data)">{{ data.fate }}</span></template
          >
        </Column>
        <Column field="title" header="Feature" />
        <Column header="How it will look" class="cut">
          <template #body="{ data }"
            ><span class="soft" :title="data.looks">{{ data.looks }}</span></template
          >
        </Column>
        <Column header="In" class="right num">
          <template #body="{ data }">{{ data.items.length }}</template>
        </Column>
      </DataTable>
      <section v-if="fit.dials.length" aria-label="Dials of the target">
        <h2>Settings for {{ fit.target }} <span class="dim">from the final sheet</span></h2>
        <dl>
          <template v-for="dial in fit.dials" :key="dial.name">
            <dt>{{ dial.name }}</dt>
            <dd>
              <b class="num">{{ dial.value }}</b> <span class="dim">{{ dial.from }}</span>
            </dd>
          </template>
        </dl>
      </section>
      <section v-if="fit.before.length" aria-label="Work before the first frame">
        <h2>
          Before the first frame <span class="dim num">{{ duration(before) }}, once</span>
        </h2>
        <dl>
          <template v-for="work in fit.before" :key="work.what">
            <dt>{{ work.what }}</dt>
            <dd class="num">{{ number(work.seconds, 1) }} s</dd>
          </template>
        </dl>
      </section>
    </template>
  </div>
</template>

<style scoped>
.target {
  overflow: auto;
  min-height: 0;
  padding-bottom: 20px;
}
.about,
.empty {
  padding: 12px 16px;
}
.losses :deep(table) {
  table-layout: fixed;
}
.losses :deep(:is(th, td):first-child) {
  padding-left: 16px;
}
.losses :deep(td.cut) {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.losses :deep(.fate) {
  width: 100px;
}
.losses :deep(.right) {
  width: 52px;
  text-align: right;
}
.severity {
  width: 72px;
}
section {
  padding: 16px 16px 0;
}
dl {
  display: grid;
  grid-template-columns: 200px minmax(0, 1fr);
  gap: 4px 12px;
  margin: 6px 0 0;
}
dt,
dd {
  margin: 0;
}
</style>
