<script setup lang="ts">
/** Which profile of a kind counts here, and a way to look into it, change it, or bring one in. */
import Button from 'primevue/button';
import Select from 'primevue/select';
import { computed, defineAsyncComponent, ref } from 'vue';
import type { ProfileKind } from '../../../core/contracts/intake.ts';
import { useProfiles } from '../../stores/profiles.ts';

const props = defineProps<{ kind: ProfileKind; label: string; none: string; chosen: string | null }>();
const emit = defineEmits<{ choose: [name: string | null] }>();
const ProfileDialog = defineAsyncComponent(() => import('./ProfileDialog.vue'));
const profiles = useProfiles();
const isEditing = ref(false);
const options = computed(() => [
  { name: props.none, value: null },
  ...profiles
    .of(props.kind)
    .filter(({ name }) => name !== props.none)
    .map(({ name }) => ({ name, value: name })),
]);
</script>

<template>
  <span class="pick">
    <span class="dim">{{ label }}</span>
    <Select
      :model-value="chosen"
      :options="options"
      option-label="name"
      option-value="value"
      size="small"
      :placeholder="none"
      :aria-label="label"
      @update:model-value="emit('choose', $event)"
    />
    <Button severity="secondary" variant="text" @click="isEditing = true">Edit …</Button>
    <ProfileDialog
      v-if="isEditing"
      :kind="kind"
      :name="chosen ?? none"
      @saved="emit('choose', $event)"
      @closed="isEditing = false"
    />
  </span>
</template>

<style scoped>
.pick {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  white-space: nowrap;
}
</style>
