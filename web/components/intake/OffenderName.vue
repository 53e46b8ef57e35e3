<script setup lang="ts">
/** The name of what a check or a log is about; it leads to its control, where there is one. */
import Button from 'primevue/button';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { pointerOf } from '../../offenders.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';

const props = defineProps<{ name: string }>();
const router = useRouter();
const shot = useShot();
const view = useView();
const pointer = computed(() => shot.state && pointerOf(shot.state.document, props.name));

function show(): void {
  view.showDial(pointer.value!);
  void router.push({ name: 'shot', params: { code: shot.state!.code }, query: view.query });
}
</script>

<template>
  <Button v-if="pointer" unstyled class="bare" :title="`Show ${name} beside the picture`" @click="show">{{
    name
  }}</Button>
  <span v-else>{{ name }}</span>
</template>

<style scoped>
button {
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
button:hover {
  text-decoration-style: solid;
}
</style>
