<script setup lang="ts">
/** Views that somebody named: picture, layer, exposure, region and pins, to come back to or to send to a colleague. */
import InputText from 'primevue/inputtext';
import Textarea from 'primevue/textarea';
import Button from 'primevue/button';
import { ref } from 'vue';
import type { KeptLook } from '../../../core/picture/brought.ts';
import { copyText } from '../../copy-text.ts';
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
  await copyText(link, 'Link copied.');
}
</script>

<template>
  <section class="looks" aria-label="Looks">
    <form @submit.prevent="keep">
      <label for="look-name" class="dim">Save this view as</label>
      <InputText id="look-name" v-model="name" size="small" maxlength="120" placeholder="noise under the table, v3" />
      <Textarea v-model="note" rows="2" maxlength="4000" aria-label="Note" placeholder="What to look for" />
      <span class="row">
        <Button severity="secondary" variant="outlined" @click="emit('pin')">Pin a note</Button>
        <Button v-if="look.pins.length" severity="secondary" variant="text" @click="look.pins = []">
          Remove {{ look.pins.length }} {{ look.pins.length === 1 ? 'pin' : 'pins' }}
        </Button>
        <span class="gap"></span>
        <Button type="submit" :disabled="!name.trim() || !look.shown">Save</Button>
      </span>
    </form>
    <ul>
      <li v-for="one in look.brought?.looks ?? []" :key="one.id">
        <Button unstyled class="bare" @click="open(one)">
          <b>{{ one.name }}</b>
        </Button>
        <p v-if="one.note" class="soft">{{ one.note }}</p>
        <p class="dim">
          {{ one.query.layer || 'beauty' }}, {{ one.query.exposure ?? 0 }} stops{{
            one.pins.length ? `, ${one.pins.length} pins` : ''
          }}
        </p>
        <span class="row"
          ><Button severity="secondary" variant="text" @click="open(one)">Show</Button
          ><Button severity="secondary" variant="text" @click="copy(one)">Copy link</Button
          ><Button severity="secondary" variant="text" @click="look.dropLook(one.id)">Delete</Button></span
        >
      </li>
    </ul>
    <p v-if="!look.brought?.looks.length" class="dim pad">No saved views of this shot yet.</p>
  </section>
</template>

<style scoped>
.looks {
  font-size: var(--small);
}
form {
  display: grid;
  gap: 6px;
  padding: 10px 12px;
  border-bottom: 1px solid var(--line);
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
