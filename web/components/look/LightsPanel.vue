<script setup lang="ts">
/** Light groups set against each other, live: what the picture would be with each light brighter or darker. */
import Button from 'primevue/button';
import Slider from 'primevue/slider';
import { computed } from 'vue';
import { gainOf, isBalanced } from '../../../core/picture/balance.ts';
import { stops } from '../../format.ts';
import { saveFile } from '../../remote/save-file.ts';
import { useLook } from '../../stores/look.ts';
import { useShot } from '../../stores/shot.ts';

const look = useLook();
const shot = useShot();
const label = (name: string) => name.replace(/^(group|lgt|lg|lightgroup)[._ -]?/i, '') || name;
const soloed = computed(() => {
  const open = look.groups.filter(({ name }) => !look.ofGroup(name).isMuted);
  return open.length === 1 && look.groups.length > 1 ? open[0].name : null;
});
const isKept = computed(() => JSON.stringify(look.balance) === JSON.stringify(look.brought?.balance ?? {}));

function set(name: string, values: { stops?: number; isMuted?: boolean }): void {
  const next = { ...look.balance, [name]: { ...look.ofGroup(name), ...values } };
  // A light as it was rendered needs no words.
  if (next[name].stops === 0 && !next[name].isMuted) delete next[name];
  look.balance = next;
}
function solo(name: string): void {
  const isOff = soloed.value === name;
  const next = { ...look.balance };
  for (const group of look.groups) next[group.name] = { ...look.ofGroup(group.name), isMuted: !isOff && group.name !== name }; // prettier-ignore
  for (const [key, one] of Object.entries(next)) if (one.stops === 0 && !one.isMuted) delete next[key];
  look.balance = next;
}
const exported = () =>
  saveFile(
    `${shot.state!.code} light balance.json`,
    JSON.stringify(
      Object.fromEntries(look.groups.map(({ name }) => [label(name), { ...look.ofGroup(name), gain: gainOf(look.ofGroup(name)) }])), // prettier-ignore
      null,
      2,
    ),
  );
</script>

<template>
  <section class="lights" aria-label="Lights">
    <template v-if="look.groups.length">
      <p class="soft pad">
        The beauty as it would be with each light group brighter or darker: light adds up, so this is exact.
      </p>
      <div v-for="group in look.groups" :key="group.name" class="group">
        <b>{{ label(group.name) }}</b>
        <span class="num">{{
          look.ofGroup(group.name).isMuted
            ? 'off'
            : `${stops(look.ofGroup(group.name).stops)} stops, × ${gainOf(look.ofGroup(group.name)).toFixed(2)}`
        }}</span>
        <Slider
          :model-value="look.ofGroup(group.name).stops"
          :min="-4"
          :max="4"
          :step="0.1"
          :aria-label="`${label(group.name)}, stops`"
          @update:model-value="set(group.name, { stops: Math.round(($event as number) * 10) / 10 })"
        />
        <span class="buttons">
          <Button severity="secondary" variant="text" :aria-pressed="soloed === group.name" @click="solo(group.name)">
            Solo
          </Button>
          <Button
            severity="secondary"
            variant="text"
            :aria-pressed="look.ofGroup(group.name).isMuted"
            @click="set(group.name, { isMuted: !look.ofGroup(group.name).isMuted })"
          >
            Mute
          </Button>
        </span>
      </div>
      <p class="actions">
        <Button :disabled="isKept" @click="look.keepBalance()">Save with the shot</Button>
        <Button severity="secondary" variant="outlined" :disabled="!isBalanced(look.balance)" @click="look.balance = {}"
          >As rendered</Button
        >
        <Button severity="secondary" variant="outlined" @click="exported">Export JSON</Button>
      </p>
      <p v-if="!isKept" class="dim pad">Not saved yet.</p>
    </template>
    <p v-else class="soft pad">
      This picture has no layers of light groups. Ours have one for each group of lights (the light's control "group");
      in imported pictures, layers named group, lightgroup, lgt or lg are treated as such, and a layer's role can be set
      under Health.
    </p>
  </section>
</template>

<style scoped>
.lights {
  font-size: var(--small);
}
.pad {
  padding: 8px 12px;
}
.group {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 6px 12px;
  padding: 8px 14px;
  border-top: 1px solid var(--line);
  align-items: center;
}
.buttons {
  display: flex;
}
.actions {
  display: flex;
  gap: 8px;
  padding: 10px 12px 4px;
  border-top: 1px solid var(--line);
}
</style>
