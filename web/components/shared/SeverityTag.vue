<script setup lang="ts">
/** How bad something is, in a word and a shape of its own. */
import { severityName } from '../../severity-words.ts';

defineProps<{ severity: string }>();
</script>

<template>
  <span class="severity" :class="severity">{{ severityName(severity) }}</span>
</template>
