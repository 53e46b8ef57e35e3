<script setup lang="ts">
/** The shot against the renderer that it is for: what is lost, what to type in there, what comes before the first frame. */
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
const before = computed(() => (props.fit?.before ?? []).reduce((sum, { seconds }) => sum + seconds, 0));
</script>

<template>
  <div class="target">
    <p v-if="!fit" class="empty soft">
      Choose the renderer that this shot goes to. What it drops, bakes or replaces is told, and a trial shows what each
      of it looks like.
    </p>
    <template v-else>
      <p class="soft about">{{ fit.about }}</p>
      <p v-if="shown.length === 0" class="soft about">
        {{ find ? `Nothing of it says "${find}".` : `${fit.target} does all that this shot asks for.` }}
      </p>
      <button
        v-for="loss in shown"
        :key="loss.id"
        class="bare row"
        :class="{ on: loss.id === chosen }"
        :aria-pressed="loss.id === chosen"
        @click="chosen = loss.id"
      >
        <span class="severity" :class="severity(loss)">{{ loss.fate }}</span>
        <span>{{ loss.title }}</span>
        <span class="soft cut" :title="loss.looks">{{ loss.looks }}</span>
        <span class="right num">{{ loss.items.length }}</span>
      </button>
      <section v-if="fit.dials.length" aria-label="Dials of the target">
        <h3>To type in at {{ fit.target }} <span class="dim">from the final sheet</span></h3>
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
        <h3>
          Before the first frame <span class="dim num">{{ duration(before) }}, once</span>
        </h3>
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
button.row {
  display: grid;
  grid-template-columns: 70px minmax(0, 2fr) minmax(0, 4fr) 36px;
  gap: 12px;
  align-items: center;
  width: 100%;
  min-height: 28px;
  padding: 0 16px;
}
.row:hover {
  background: var(--panel);
}
.row.on {
  background: var(--up);
}
.severity {
  width: 64px;
}
.cut {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.right {
  text-align: right;
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
