<script setup lang="ts">
/** What all shots hold, and what is left on the disk. */
import { onBeforeUnmount, onMounted, ref } from 'vue';
import type { DiskTold } from '../../../core/contracts/storage.ts';
import bytes from 'pretty-bytes';
import { getJson } from '../../remote/client.ts';

const EVERY_MS = 30_000;

const disk = ref<DiskTold | null>(null);
const look = async () => {
  disk.value = await getJson<DiskTold>('/disk').catch(() => null);
};
let timer = 0;
onMounted(() => {
  void look();
  timer = window.setInterval(() => void look(), EVERY_MS);
});
onBeforeUnmount(() => clearInterval(timer));
defineExpose({ look });
</script>

<template>
  <span v-if="disk" class="dim num">Shots use {{ bytes(disk.held) }}; {{ bytes(disk.free) }} free on disk.</span>
</template>
