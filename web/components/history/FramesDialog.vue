<script setup lang="ts">
/** Which frames are rendered as one, and by which sheet. */
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import SelectButton from 'primevue/selectbutton';
import { computed, ref } from 'vue';
import type { SheetName } from '../../../core/document/schema.ts';
import { proposedFrames, readFrames, tellFrames } from '../../../core/render/frame/frame-list.ts';
import { plural } from '../../../core/intake/preflight/tell.ts';
import { useMessages } from '../../stores/messages.ts';
import { useShot } from '../../stores/shot.ts';

const emit = defineEmits<{ closed: [] }>();
const shot = useShot();
const document = computed(() => shot.state!.document);
const proposed = proposedFrames(document.value);
const text = ref(tellFrames(proposed[0].frames));
const sheet = ref<SheetName>('preview');
const busy = ref(false);
const read = computed(() => readFrames(text.value));
const frames = computed(() => ('frames' in read.value ? read.value.frames : null));
const size = computed(() => {
  const { width, height, samples } = document.value.sheets[sheet.value];
  return `${width} × ${height}, ${plural(samples, 'sample')} per pixel`;
});

async function begin(): Promise<void> {
  if (!frames.value) return;
  busy.value = true;
  if (await shot.renderFrames(sheet.value, frames.value)) {
    useMessages().done(`${plural(frames.value.length, 'frame')} queued. Look plays them as they come.`);
    emit('closed');
  }
  busy.value = false;
}
</script>

<template>
  <Dialog visible modal header="Render frames" :style="{ width: '460px' }" @update:visible="emit('closed')">
    <form id="frames" class="form" @submit.prevent="begin">
      <label>
        <span>Frames, such as 1001-1008 or 1001-1100x25, 1110</span>
        <InputText
          v-model="text"
          autofocus
          spellcheck="false"
          :invalid="'problem' in read"
          aria-describedby="frames-told"
          fluid
        />
      </label>
      <div class="proposed">
        <Button
          v-for="one in proposed"
          :key="one.name"
          severity="secondary"
          variant="outlined"
          size="small"
          :title="tellFrames(one.frames)"
          @click="text = tellFrames(one.frames)"
        >
          {{ one.name[0].toUpperCase() + one.name.slice(1) }}
        </Button>
      </div>
      <div class="sheet">
        <span>Sheet</span>
        <SelectButton
          v-model="sheet"
          :options="[
            { id: 'preview', name: 'Preview' },
            { id: 'final', name: 'Final' },
          ]"
          option-label="name"
          option-value="id"
          :allow-empty="false"
          size="small"
          aria-label="Sheet"
        />
      </div>
      <p id="frames-told" :class="'problem' in read ? 'bad' : 'soft'" role="status">
        <template v-if="'problem' in read">{{ read.problem }}</template>
        <template v-else>{{ plural(read.frames.length, 'frame') }} of {{ size }}, each with noise of its own.</template>
      </p>
    </form>
    <template #footer>
      <Button severity="secondary" variant="text" @click="emit('closed')">Cancel</Button>
      <Button type="submit" form="frames" :disabled="busy || !frames">
        Render {{ frames ? plural(frames.length, 'frame') : '' }}
      </Button>
    </template>
  </Dialog>
</template>

<style scoped>
.form,
label {
  display: grid;
  gap: 10px;
}
label {
  gap: 4px;
}
label span,
.sheet span {
  color: var(--soft);
}
.proposed,
.sheet {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.bad {
  color: var(--stop);
}
p {
  min-height: 20px;
}
</style>
