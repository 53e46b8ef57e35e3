<script setup lang="ts">
/** What would put a fault right, in values and work, and the button that does it. */
import Button from 'primevue/button';
import { computed } from 'vue';
import type { PreflightRepair, RepairWork } from '../../../core/contracts/intake.ts';

const props = defineProps<{ repair: PreflightRepair }>();
const emit = defineEmits<{ repair: [] }>();

const tell = (value: unknown): string => (typeof value === 'string' ? value : JSON.stringify(value));
function toldWork(work: RepairWork): string[] {
  switch (work.kind) {
    case 'mend meshes':
      return work.meshes.map((mesh) => `a new mesh "${mesh}"`);
    case 'carry transforms':
      return work.objects.map((object) => `a mesh of its own for "${object}"`);
    case 'centre pivots':
      return work.objects.map((object) => `"${object}" about the middle of its mesh`);
    case 'bake maps':
      return Object.entries(work.texels).map(([map, side]) => `"${map}" as an image of ${side} × ${side} texels`);
    case 'mend seams':
      return Object.keys(work.textures).map((texture) => `a new texture in place of "${texture}"`);
    case 'mend alpha':
      return work.textures.map((texture) => `a new texture in place of "${texture}"`);
    case 'shrink textures':
      return Object.keys(work.textures).map((texture) => `a smaller texture in place of "${texture}"`);
    case 'even poles':
      return Object.keys(work.textures).map((texture) => `a texture with even poles in place of "${texture}"`);
    case 'undo curve':
      return work.textures.map((texture) => `a linear texture in place of "${texture}"`);
    case 'end floors':
      return Object.entries(work.sides).map(([floor, side]) => `"${floor}" as a square of ${side} m`);
  }
}
const changes = computed(() => [
  ...props.repair.patch.flatMap((step) =>
    step.op === 'replace'
      ? [`${step.path} to ${tell(step.value)}`]
      : step.op === 'remove'
        ? [`without ${step.path}`]
        : [],
  ),
  ...(props.repair.work ? toldWork(props.repair.work) : []),
]);
</script>

<template>
  <div class="repair">
    <div>
      <b>{{ repair.label }}</b>
      <p v-for="change in changes.slice(0, 6)" :key="change" class="dim">{{ change }}</p>
      <p v-if="changes.length > 6" class="dim">and {{ changes.length - 6 }} more</p>
    </div>
    <Button @click="emit('repair')">Repair</Button>
  </div>
</template>

<style scoped>
.repair {
  display: flex;
  gap: 10px;
  justify-content: space-between;
  align-items: center;
  width: 100%;
  background: var(--up);
  border-radius: 3px;
  padding: 8px 10px;
}
.repair p {
  font-size: var(--small);
  overflow-wrap: anywhere;
}
</style>
