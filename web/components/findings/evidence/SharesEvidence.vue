<script setup lang="ts">
/** Whose something is, as one bar a question: by pass, by light, by dial. */
import type { Evidence, ShareBar } from '../../../../core/contracts/finding.ts';
import { percent } from '../../../format.ts';

defineProps<{ evidence: Extract<Evidence, { kind: 'shares' }> }>();
/** Greys from light to dark: which is most is told by place and size, names by the words below. */
const SHADES = ['#d9d9d9', '#a2a2a2', '#7b7b7b', '#5e5e5e', '#484848'];
const told = (bar: ShareBar) => bar.parts.map(({ label, share }) => `${label} ${percent(share)}`).join(', ');
</script>

<template>
  <dl :aria-label="evidence.title">
    <template v-for="bar in evidence.bars" :key="bar.label">
      <dt>{{ bar.label }}</dt>
      <dd :title="told(bar)">
        <span class="bar" aria-hidden="true">
          <i
            v-for="(part, i) in bar.parts"
            :key="part.label"
            :style="{ flexGrow: part.share, background: SHADES[i] }"
          ></i>
        </span>
        <span class="words">{{ told(bar) }}</span>
      </dd>
    </template>
  </dl>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 40px 1fr;
  gap: 3px 8px;
  font-size: var(--small);
  margin: 0;
}
dt {
  color: var(--dim);
}
dd {
  margin: 0;
  min-width: 0;
}
.bar {
  display: flex;
  gap: 1px;
  height: 5px;
  margin: 5px 0 2px;
}
.bar i {
  flex-basis: 0;
  min-width: 1px;
}
.words {
  display: block;
  color: var(--soft);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
