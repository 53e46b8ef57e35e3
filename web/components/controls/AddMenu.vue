<script setup lang="ts">
/** Adds a light, a camera, an image, objects or a group to the scene: a version of its own, which undo takes back. */
import { Plus } from '@lucide/vue';
import { useFileDialog } from '@vueuse/core';
import Button from 'primevue/button';
import Menu from 'primevue/menu';
import { computed, useTemplateRef } from 'vue';
import { NEW_LIGHTS, newCamera, newGroup, newLight, type NewItem } from '../../../core/document/new-items.ts';
import { useShot } from '../../stores/shot.ts';
import { useView } from '../../stores/view.ts';

const shot = useShot();
const view = useView();
const menu = useTemplateRef('menu');

async function add({ pointer, item }: NewItem<object>): Promise<void> {
  if (await shot.addItem(pointer, item)) view.showDial(pointer);
}
const { open, onChange } = useFileDialog({
  accept: '.exr,.hdr,.pfm,.png,.jpg,.jpeg,.tif,.tiff',
  multiple: false,
  reset: true,
});
onChange((files) => (view.adding = files?.[0] ?? null));

const scene = useFileDialog({ multiple: true, reset: true });
scene.onChange((files) => {
  if (files?.length) view.addingScene = [...files].map((file) => ({ path: file.name, file }));
});

const items = computed(() => [
  {
    label: 'Light',
    items: NEW_LIGHTS.map((kind) => ({
      label: `${kind[0].toUpperCase()}${kind.slice(1)}`,
      command: () => void add(newLight(shot.state!.document, kind, null)),
    })),
  },
  {
    label: 'Camera',
    items: [{ label: 'Where this one stands', command: () => void add(newCamera(shot.state!.document)) }],
  },
  {
    label: 'Image',
    items: [
      { label: 'Environment or map …', command: () => open() },
      { label: 'From another shot …', command: () => (view.isBorrowing = true) },
    ],
  },
  { label: 'Objects', items: [{ label: 'Of a scene file …', command: () => scene.open() }] },
  { label: 'Group', items: [{ label: 'Empty', command: () => void add(newGroup(shot.state!.document, [])) }] },
]);
</script>

<template>
  <Button
    severity="secondary"
    variant="outlined"
    size="small"
    aria-haspopup="true"
    title="Add a light, a camera, an image or objects; right-click the picture to add a light over a point"
    @click="menu?.toggle($event)"
  >
    <Plus :size="14" aria-hidden="true" /> Add
  </Button>
  <Menu ref="menu" :model="items" popup />
</template>
