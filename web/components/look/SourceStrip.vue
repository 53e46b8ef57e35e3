<script setup lang="ts">
/** Whatever there is to look at: our renders, imported pictures, sequences with their frames; click shows one, “Compare” puts it beside. */
import { Import, Pause, Play } from '@lucide/vue';
import ProgressBar from 'primevue/progressbar';
import Select from 'primevue/select';
import Button from 'primevue/button';
import { useConfirm } from 'primevue/useconfirm';
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import type { RenderSummary } from '../../../core/contracts/events.ts';
import type { PictureSet } from '../../../core/picture/brought.ts';
import { missingFrames } from '../../../core/picture/sequence/names.ts';
import { tellFrames } from '../../../core/render/frame/frame-list.ts';
import { percent } from '../../format.ts';
import { filesOfInput } from '../../remote/dropped-files.ts';
import { useUploads } from '../../picture/uploads.ts';
import { useLook, type LookSource } from '../../stores/look.ts';
import { useMessages } from '../../stores/messages.ts';
import { useShot } from '../../stores/shot.ts';
import FilePick from '../shared/FilePick.vue';

const look = useLook();
const shot = useShot();
const uploads = useUploads();
const messages = useMessages();
const confirm = useConfirm();

interface Row {
  id: string;
  name: string;
  told: string;
  set: PictureSet | null;
  /** The frame that stands for it: the one that is shown, else the first. */
  source: LookSource;
}

/** Renders of frames, those of one range together. */
const framesByRange = computed(() => {
  const frames = (shot.state?.renders ?? []).filter(({ range }) => range !== null);
  const ranges = [...new Set(frames.map(({ range }) => range!))];
  return ranges.map((range) => ({ range, frames: frames.filter((one) => one.range === range) }));
});
const nameOfRange = ([{ version, sheet }]: RenderSummary[]) => `Frames, version ${version}, ${sheet}`;
const numbersOf = (frames: RenderSummary[]) => tellFrames(frames.map(({ frame }) => frame!));
/** Ranges of which no frame has samples yet: there is nothing to click, but they are on their way. */
const waiting = computed(() =>
  framesByRange.value.filter(({ frames }) => frames.every(({ samplesDone }) => samplesDone === 0)),
);

const rows = computed<Row[]>(() => {
  const renders = look.sources.filter((one) => one.render);
  const whole = renders.filter(({ render }) => render!.purpose === 'base');
  const trials = renders.filter(({ render }) => render!.purpose === 'trial');
  const row = (source: LookSource): Row => ({
    id: source.key,
    name: source.label,
    told: source.told,
    set: null,
    source,
  });
  const sets = (look.brought?.sets ?? []).flatMap((set): Row[] => {
    const own = look.sources.filter((one) => one.set?.id === set.id);
    if (own.length === 0) return [];
    const source = own.find(({ key }) => key === look.shown?.key) ?? own[0];
    const frames = set.pictures.flatMap(({ frame }) => frame ?? []);
    const gaps = frames.length > 1 ? missingFrames(frames).length : 0;
    const cut = set.pictures.filter(({ facts }) => facts.missingChunks > 0).length;
    const told = [frames.length > 1 ? `${frames.length} frames` : source.told, gaps ? `${gaps} missing` : '', cut ? `${cut} cut short` : '']; // prettier-ignore
    return [{ id: `s${set.id}`, name: `${set.name}${set.take > 1 ? `, take ${set.take}` : ''}`, told: told.filter(Boolean).join(', '), set, source }]; // prettier-ignore
  });
  const ranges = framesByRange.value.flatMap(({ range, frames }): Row[] => {
    const own = renders.filter(({ render }) => render!.range === range);
    if (own.length === 0) return [];
    const source = own.find(({ key }) => key === look.shown?.key) ?? own[0];
    const done = frames.filter(({ state }) => state === 'done').length;
    const told = `${numbersOf(frames)}${done < frames.length ? `, ${done} of ${frames.length} done` : ''}`;
    return [{ ...row(source), id: `range ${range}`, name: nameOfRange(frames), told }];
  });
  return [...sets, ...ranges.reverse(), ...[...whole].reverse().map(row), ...[...trials].reverse().map(row)];
});

const FRAME_RATES = [12, 24, 25, 30].map((rate) => ({ id: rate, name: `${rate} fps` }));
const frameRate = ref(24);
const isPlaying = ref(false);
let timer: ReturnType<typeof setInterval> | null = null;
const frameAt = computed(() => look.sequence?.frames.findIndex(({ key }) => key === look.shown?.key) ?? -1);

/** Steps once the frame that is shown is there: a picture that is still decoded is not skipped. */
function step(by: number): void {
  const { sequence } = look;
  if (!sequence) return;
  const { frames } = sequence;
  const next = frames[(frameAt.value + by + frames.length) % frames.length];
  look.show(next.key);
}
watch([isPlaying, frameRate], ([on, rate]) => {
  if (timer) clearInterval(timer);
  timer = on ? setInterval(() => (look.information?.done === 1 ? step(1) : null), 1000 / rate) : null;
});
watch(() => look.sequence, (now) => !now && (isPlaying.value = false)); // prettier-ignore
onBeforeUnmount(() => timer && clearInterval(timer));

async function bring(input: HTMLInputElement): Promise<void> {
  const files = filesOfInput(input);
  const taken = await uploads.add(shot.state!.code, files);
  if (taken < files.length) messages.failed(`${files.length - taken} of ${files.length} files are not pictures and were skipped.`); // prettier-ignore
}

function remove(set: PictureSet): void {
  const many = set.pictures.length > 1 ? ` and its ${set.pictures.length} frames` : '';
  confirm.require({
    header: `Remove ${set.name}`,
    message: `This removes ${set.name}${many} from the shot. Your original files are not touched.`,
    acceptProps: { label: 'Remove', severity: 'danger' },
    rejectProps: { label: 'Cancel', severity: 'secondary' },
    accept: () => void look.dropSet(set.id),
  });
}

const sent = computed(() => (uploads.total ? (uploads.total - uploads.waiting.length + uploads.waiting.reduce((sum, one) => sum + one.sent, 0)) / uploads.total : 0)); // prettier-ignore
defineExpose({ step, play: () => (isPlaying.value = !isPlaying.value) });
</script>

<template>
  <section class="strip" aria-label="Pictures">
    <div class="head">
      <h2>Pictures</h2>
      <span class="dim num">{{ rows.length }}</span>
      <template v-if="look.sequence">
        <span class="play">
          <Button severity="secondary" variant="text" title="Frame before (Left)" @click="step(-1)">Back</Button>
          <Button
            severity="secondary"
            variant="outlined"
            :aria-pressed="isPlaying"
            title="Play or pause (Space)"
            @click="isPlaying = !isPlaying"
          >
            <component :is="isPlaying ? Pause : Play" :size="14" aria-hidden="true" />
            {{ isPlaying ? 'Pause' : 'Play' }}
          </Button>
          <Button severity="secondary" variant="text" title="Next frame (Right)" @click="step(1)">Next</Button>
          <Select
            v-model="frameRate"
            :options="FRAME_RATES"
            option-label="name"
            option-value="id"
            size="small"
            aria-label="Frames per second"
          />
        </span>
        <div class="frames" role="group" aria-label="Frames">
          <template v-for="(picture, i) in look.sequence.frames" :key="picture.key">
            <span
              v-for="gap in look.sequence.missing.filter(
                (f) => f < picture.frame && (i === 0 || f > look.sequence!.frames[i - 1].frame),
              )"
              :key="`gap ${gap}`"
              class="frame gap num"
              :title="`Frame ${gap} is missing`"
              >{{ gap }}</span
            >
            <Button
              unstyled
              class="bare frame num"
              :class="{ on: picture.key === look.shown?.key, cut: picture.lacks > 0 }"
              :title="picture.lacks ? `${picture.name} is cut short` : picture.name"
              @click="look.show(picture.key)"
            >
              {{ picture.frame }}
            </Button>
          </template>
        </div>
      </template>
      <span class="rest"></span>
      <span v-if="uploads.waiting.length" class="sending" role="status">
        <ProgressBar :value="Math.round(100 * sent)" :show-value="false" aria-label="Uploading pictures" />
        <span class="num">{{ percent(sent) }}</span> uploading {{ uploads.waiting[0].file.name
        }}{{ uploads.waiting.length > 1 ? ` and ${uploads.waiting.length - 1} more` : '' }}
        <Button severity="secondary" variant="text" @click="uploads.cancel()">Cancel</Button>
      </span>
      <FilePick label="Import pictures" multiple accept=".exr,.hdr,.pfm,.png,.jpg,.jpeg,.tif,.tiff" @pick="bring">
        <Import :size="14" aria-hidden="true" /> Import pictures
      </FilePick>
    </div>
    <ul v-if="uploads.refused.length" class="refused" role="alert">
      <li v-for="one in uploads.refused" :key="one.key">
        {{ one.error }} <Button severity="secondary" variant="text" @click="uploads.dismiss(one.key)">Dismiss</Button>
      </li>
    </ul>
    <ul class="rows">
      <li v-for="{ range, frames } in waiting" :key="`waiting ${range}`" class="dim">
        <span class="name">{{ nameOfRange(frames) }}</span>
        <span class="num told">{{ numbersOf(frames) }}, no samples yet</span>
      </li>
      <li v-for="row in rows" :key="row.id" :class="{ on: row.source.key === look.shown?.key }">
        <Button
          unstyled
          class="bare name"
          :aria-current="row.source.key === look.shown?.key"
          @click="look.show(row.source.key)"
        >
          {{ row.name }}
        </Button>
        <span class="dim num told">{{ row.told }}</span>
        <Button
          v-if="row.source.key !== look.shown?.key"
          severity="secondary"
          variant="text"
          :aria-pressed="look.others.includes(row.source.key)"
          @click="look.toggleOther(row.source.key)"
        >
          {{ look.others.includes(row.source.key) ? 'Comparing' : 'Compare' }}
        </Button>
        <Button
          v-else-if="look.sequence"
          severity="secondary"
          variant="text"
          title="Compares the frame before with this one"
          @click="look.toggleOther(look.sequence.frames[frameAt > 0 ? frameAt - 1 : 1].key)"
        >
          Compare frame before
        </Button>
        <span v-else class="dim">shown</span>
        <Button
          v-if="row.set"
          severity="secondary"
          variant="text"
          :aria-label="`Remove ${row.name} from the shot`"
          @click="remove(row.set)"
        >
          Remove
        </Button>
        <a
          v-else-if="row.source.render"
          class="save"
          :href="`/api/renders/${row.source.render.id}/exr`"
          download
          title="Every pass of it, with mattes by name"
          >Save as EXR</a
        >
      </li>
    </ul>
    <p v-if="!rows.length && !waiting.length" class="dim pad">
      Nothing to look at yet: drop pictures here, or render the shot.
    </p>
  </section>
</template>

<style scoped>
.strip {
  height: 100%;
  display: flex;
  flex-direction: column;
  background: var(--panel);
  border-top: 1px solid var(--line);
  font-size: var(--small);
  min-height: 0;
}
.head {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 4px 12px;
  border-bottom: 1px solid var(--line);
}
.rest {
  flex: 1;
}
.play {
  display: flex;
  margin-left: 14px;
}
.save {
  color: var(--soft);
  padding: 3px 7px;
}
.frames {
  display: flex;
  gap: 2px;
  overflow-x: auto;
  min-width: 0;
}
.frame {
  padding: 2px 6px;
  border: 1px solid var(--line);
  font-size: var(--small);
}
.frame.on {
  border-color: var(--act);
}
.frame.gap {
  border-style: dashed;
  color: var(--stop);
  text-decoration: line-through;
}
.frame.cut {
  color: var(--care);
  text-decoration: underline dashed;
}
.sending :deep(.p-progressbar) {
  width: 80px;
}
.sending {
  display: flex;
  gap: 8px;
  align-items: center;
}
.rows {
  overflow: auto;
  min-height: 0;
  flex: 1;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(460px, 1fr));
  align-content: start;
}
.rows li {
  display: grid;
  grid-template-columns: minmax(120px, auto) minmax(0, 1fr) auto auto;
  gap: 8px;
  align-items: center;
  padding: 1px 12px;
}
.rows li:hover {
  background: var(--up);
}
.rows li.on {
  box-shadow: inset 2px 0 var(--act);
}
.name,
.told {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.refused {
  padding: 4px 12px;
  color: var(--stop);
}
.pad {
  padding: 10px 12px;
}
</style>
