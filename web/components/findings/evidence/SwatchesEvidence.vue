<script setup lang="ts">
/** Colours, as a display shows them. */
import type { Evidence } from '../../../../core/contracts/finding.ts';
import { srgbFromLinear } from '../../../../core/data/colour.ts';

defineProps<{ evidence: Extract<Evidence, { kind: 'swatches' }> }>();
const shown = (rgb: number[]) =>
  `rgb(${rgb.map((v) => Math.round(255 * srgbFromLinear(Math.min(1, Math.max(0, v))))).join(' ')})`;
const told = (rgb: number[]) => rgb.map((v) => +v.toPrecision(3)).join(', ');
</script>

<template>
  <div class="swatches">
    <span class="dim">{{ evidence.title }}</span>
    <span v-for="swatch in evidence.swatches" :key="swatch.label" class="swatch" :title="`${told(swatch.rgb)}, linear`">
      <i :style="{ background: shown(swatch.rgb) }"></i>{{ swatch.label }}
      <span class="num dim">{{ told(swatch.rgb) }}</span>
    </span>
  </div>
</template>

<style scoped>
.swatches {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  font-size: var(--small);
}
.swatch {
  display: inline-flex;
  gap: 5px;
  align-items: center;
}
i {
  width: 14px;
  height: 14px;
  border: 1px solid #5a5a5a;
}
</style>
