<script setup lang="ts">
/** One figure of a trial: what was predicted (ring) and what was measured (dot) on the same small axis. */
import { computed } from 'vue';

const props = defineProps<{
  label: string;
  from: number;
  to: number;
  predicted: number | null;
  measured: number | null;
  text: (value: number) => string;
}>();

const place = (value: number) =>
  `${100 * Math.max(0, Math.min(1, (value - props.from) / (props.to - props.from || 1)))}%`;
const title = computed(() => {
  const told = (value: number | null) => (value === null ? 'not yet' : props.text(value));
  return `${props.label}: predicted ${told(props.predicted)}, measured ${told(props.measured)}`;
});
</script>

<template>
  <div class="axis" :title="title">
    <span class="label">{{ label }}</span>
    <span class="line">
      <i v-if="predicted !== null" :style="{ left: place(predicted) }"></i>
      <u v-if="measured !== null" :style="{ left: place(measured) }"></u>
    </span>
    <span class="num predicted">{{ predicted === null ? '' : text(predicted) }}</span>
    <span class="num">{{ measured === null ? '' : text(measured) }}</span>
  </div>
</template>

<style scoped>
.axis {
  display: grid;
  grid-template-columns: 62px 1fr 46px 46px;
  gap: 6px;
  align-items: center;
  color: var(--dim);
  height: 17px;
}
.label {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.line {
  height: 1px;
  background: #4a4a4a;
  position: relative;
}
i,
u {
  position: absolute;
  top: -4px;
  width: 8px;
  height: 8px;
  border-radius: 50%;
  margin-left: -4px;
}
i {
  border: 1px solid var(--soft);
}
u {
  background: var(--text);
}
.num {
  text-align: right;
  color: var(--text);
}
.predicted {
  color: var(--dim);
}
</style>
