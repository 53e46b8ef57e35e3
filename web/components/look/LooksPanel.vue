<script setup lang="ts">
/** Views that somebody named: picture, layer, exposure, region and pins, to come back to or to send to a colleague. */
import { ref } from 'vue';
import type { KeptLook } from '../../../core/picture/brought.ts';
import { useLook } from '../../stores/look.ts';
import { useMessages } from '../../stores/messages.ts';

const emit = defineEmits<{ pin: [] }>();
const look = useLook();
const name = ref('');
const note = ref('');

async function keep(): Promise<void> {
  const query = { ...look.query, ...(look.shown ? { a: look.shown.key } : {}) };
  if (await look.keepLook({ name: name.value.trim(), note: note.value.trim(), query, pins: look.pins })) {
    name.value = note.value = '';
  }
}
function open(one: KeptLook): void {
  look.fromQuery({ ...one.query, panel: 'looks' });
  look.pins = one.pins;
  const missing = look.sourceOf(one.query.a ?? null) === null;
  if (missing) useMessages().failed(`The picture of "${one.name}" is no longer with this shot; the rest of the view is as it was.`); // prettier-ignore
}
async function copy(one: KeptLook): Promise<void> {
  const link = `${window.location.origin}${window.location.pathname}?${new URLSearchParams(one.query).toString()}`;
  await navigator.clipboard.writeText(link).catch(() => {});
  useMessages().done('The address of this view was copied.');
}
</script>

<template>
  <section class="looks" aria-label="Looks">
    <form @submit.prevent="keep">
      <label for="look-name" class="dim">Keep this view as</label>
      <input id="look-name" v-model="name" maxlength="120" placeholder="noise under the table, v3" />
      <textarea
        v-model="note"
        rows="2"
        maxlength="4000"
        aria-label="Note"
        placeholder="What there is to see"
      ></textarea>
      <span class="row">
        <button class="plain" type="button" @click="emit('pin')">Pin on the picture</button>
        <button v-if="look.pins.length" class="flat" type="button" @click="look.pins = []">
          Drop {{ look.pins.length }} {{ look.pins.length === 1 ? 'pin' : 'pins' }}
        </button>
        <span class="gap"></span>
        <button class="plain act" type="submit" :disabled="!name.trim() || !look.shown">Keep</button>
      </span>
    </form>
    <ul>
      <li v-for="one in look.brought?.looks ?? []" :key="one.id">
        <button class="bare" @click="open(one)">
          <b>{{ one.name }}</b>
        </button>
        <p v-if="one.note" class="soft">{{ one.note }}</p>
        <p class="dim">
          {{ one.query.layer || 'beauty' }}, {{ one.query.exposure ?? 0 }} stops{{
            one.pins.length ? `, ${one.pins.length} pins` : ''
          }}
        </p>
        <span class="row"
          ><button class="flat" @click="open(one)">Show</button
          ><button class="flat" @click="copy(one)">Copy its address</button
          ><button class="flat" @click="look.dropLook(one.id)">Drop</button></span
        >
      </li>
    </ul>
    <p v-if="!look.brought?.looks.length" class="dim pad">No view of this shot is kept yet.</p>
  </section>
</template>

<style scoped>
.looks {
  font-size: 12px;
}
form {
  display: grid;
  gap: 6px;
  padding: 10px 12px;
  border-bottom: 1px solid var(--line);
}
input,
textarea {
  font: inherit;
  color: var(--text);
  background: var(--up);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 3px 6px;
  resize: vertical;
}
.row {
  display: flex;
  gap: 6px;
  align-items: center;
}
li {
  padding: 8px 12px;
  border-bottom: 1px solid var(--line);
}
.pad {
  padding: 10px 12px;
}
</style>
