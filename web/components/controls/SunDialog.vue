<script setup lang="ts">
/** Puts a sun where it stands at a place and time; of the environment, with a daylight sky that is exposed for level ground. */
import Button from 'primevue/button';
import Checkbox from 'primevue/checkbox';
import DatePicker from 'primevue/datepicker';
import Dialog from 'primevue/dialog';
import InputNumber from 'primevue/inputnumber';
import { useLocalStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import { withPart } from '../../../core/data/placement.ts';
import type { Transform } from '../../../core/data/transform.ts';
import { Daylight } from '../../../core/lights/daylight.ts';
import { sunPosition } from '../../../core/lights/sun-position.ts';
import { number } from '../../format.ts';
import { usePending } from '../../stores/pending.ts';
import { useShot } from '../../stores/shot.ts';

/** Pointer of the environment or of a distant light. */
const { pointer, name } = defineProps<{ pointer: string; name: string }>();
const emit = defineEmits<{ closed: [] }>();
const shot = useShot();
const pending = usePending();
const document = computed(() => shot.state!.document);
const isSky = computed(() => pointer === '/environment');

const place = useLocalStorage('dusting.place', { latitude: 46.5, longitude: 11.3, hours: 1 });
/** At noon, when there is a sun to set, whatever the hour here. */
const day = ref(new Date(new Date().setHours(12, 0, 0, 0)));
const isExposed = ref(true);
/** The clock of the picker is that of the place, whatever this machine's. */
const time = computed(() => {
  const d = day.value;
  return new Date(Date.UTC(d.getFullYear(), d.getMonth(), d.getDate(), d.getHours(), d.getMinutes()) - place.value.hours * 3_600_000); // prettier-ignore
});
const sun = computed(() => sunPosition({ ...place.value, time: time.value }));

const tidy = (value: number) => Number(value.toFixed(3));
function set(): void {
  const [elevation, azimuth] = [tidy(sun.value.elevation), tidy(sun.value.azimuth)];
  if (isSky.value) {
    const { daylight } = document.value.environment;
    pending.put(document.value, '/environment/kind', 'daylight');
    pending.put(document.value, '/environment/daylight/elevation', elevation);
    pending.put(document.value, '/environment/daylight/azimuth', azimuth);
    if (isExposed.value) {
      const exposure = new Daylight({ ...daylight, elevation, azimuth }).exposure();
      pending.put(document.value, '/environment/intensity', Number(exposure.toPrecision(3)));
    }
  } else {
    const at = `${pointer}/transform`;
    const stored = document.value.lights[pointer.split('/')[2]].transform as Transform;
    const raised = withPart(stored, (pending.scene[at] ?? stored) as Transform, 'elevation', elevation);
    pending.put(document.value, at, withPart(stored, raised, 'azimuth', azimuth));
  }
  emit('closed');
}
</script>

<template>
  <Dialog
    visible
    modal
    :header="isSky ? 'Daylight sky' : `Sun position of ${name}`"
    :style="{ width: '440px' }"
    @update:visible="emit('closed')"
  >
    <form id="sun" class="form" @submit.prevent="set">
      <label
        ><span>Latitude, ° north</span
        ><InputNumber
          v-model="place.latitude"
          :min="-90"
          :max="90"
          :max-fraction-digits="4"
          size="small"
          fluid
          :pt="{ pcInputText: { root: { autofocus: true } } }"
      /></label>
      <label
        ><span>Longitude, ° east</span
        ><InputNumber v-model="place.longitude" :min="-180" :max="180" :max-fraction-digits="4" size="small" fluid
      /></label>
      <label
        ><span>Date and local time</span
        ><DatePicker v-model="day" show-time hour-format="24" date-format="yy-mm-dd" size="small" fluid
      /></label>
      <label
        ><span>Hours from UTC</span
        ><InputNumber v-model="place.hours" :min="-12" :max="14" :max-fraction-digits="2" size="small" fluid
      /></label>
      <p role="status" class="wide">
        <template v-if="sun.elevation < 0"
          >The sun is {{ number(-sun.elevation, 1) }}° below the horizon then.</template
        >
        <template v-else
          >Elevation {{ number(sun.elevation, 1) }}°, azimuth {{ number(sun.azimuth, 1) }}° from north (−Z) by way of
          east (+X).</template
        >
      </p>
      <label v-if="isSky" class="check wide"
        ><Checkbox v-model="isExposed" binary size="small" /> Intensity by which matt white on level ground is display
        white</label
      >
    </form>
    <template #footer>
      <Button severity="secondary" variant="text" @click="emit('closed')">Cancel</Button>
      <Button type="submit" form="sun" :disabled="sun.elevation < 0">Set</Button>
    </template>
  </Dialog>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 14px;
}
label {
  display: grid;
  gap: 3px;
}
label span {
  color: var(--soft);
}
.wide {
  grid-column: 1 / -1;
}
.check {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
