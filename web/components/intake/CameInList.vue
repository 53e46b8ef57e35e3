<script setup lang="ts">
/** How the shot came in: what of its scene was not understood, and what was put right on the way. */
import { computed } from 'vue';
import type { CameIn } from '../../../core/contracts/intake.ts';
import MaterialTable from './MaterialTable.vue';

const props = defineProps<{ cameIn: CameIn | null; find: string }>();

const matching = (list: CameIn['repaired']) => {
  const words = props.find.toLowerCase().split(/\s+/).filter(Boolean);
  return list.filter(({ where, what }) => words.every((word) => `${where} ${what}`.toLowerCase().includes(word)));
};
const lists = computed(() =>
  props.cameIn
    ? [
        {
          title: 'Not understood',
          none: 'Everything in the file was understood.',
          items: matching(props.cameIn.notUnderstood),
        },
        { title: 'Put right', none: 'Nothing had to be put right.', items: matching(props.cameIn.repaired) },
      ]
    : [],
);
</script>

<template>
  <div class="came">
    <p v-if="!cameIn" class="soft">Imported as a Dusting shot, unchanged.</p>
    <section v-if="cameIn?.takenOver?.length">
      <h2>Taken over</h2>
      <dl class="over">
        <template v-for="one in cameIn.takenOver" :key="one.aspect">
          <dt>
            <span class="severity" :class="{ stop: one.fate === 'lost', note: one.fate === 'default' }">{{
              one.fate
            }}</span>
            {{ one.aspect }}
          </dt>
          <dd class="dim">{{ one.detail }}</dd>
        </template>
      </dl>
    </section>
    <MaterialTable v-if="cameIn" :came-in="cameIn" :find="find" />
    <section v-for="list in lists" :key="list.title">
      <h2>
        {{ list.title }} <span class="dim num">{{ list.items.length || '' }}</span>
      </h2>
      <p v-if="list.items.length === 0" class="dim">{{ find ? 'Nothing of that name.' : list.none }}</p>
      <dl v-else>
        <template v-for="(item, i) in list.items" :key="i">
          <dt>{{ item.what }}</dt>
          <dd class="dim">{{ item.where }}</dd>
        </template>
      </dl>
    </section>
  </div>
</template>

<style scoped>
.came {
  overflow: auto;
  padding: 14px 16px;
  display: grid;
  gap: 18px;
  align-content: start;
}
h2 {
  margin-bottom: 6px;
}
dl {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 1fr);
  gap: 0 14px;
  margin: 0;
}
dl.over {
  grid-template-columns: 210px minmax(0, 1fr);
}
dt,
dd {
  margin: 0;
  padding: 4px 0;
  border-top: 1px solid var(--line);
  overflow-wrap: anywhere;
}
</style>
