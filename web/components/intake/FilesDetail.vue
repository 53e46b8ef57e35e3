<script setup lang="ts">
/** The chosen file, and what can be done about files: imported, packed, tried in isolation. */
import ProgressBar from 'primevue/progressbar';
import Button from 'primevue/button';
import { computed } from 'vue';
import type { FileBreak, IntakeFile } from '../../../core/contracts/intake.ts';
import { fileSize, fileState } from '../../file-words.ts';
import { number, percent } from '../../format.ts';
import { filesOfInput } from '../../remote/dropped-files.ts';
import { useIntake } from '../../stores/intake.ts';
import { useShot } from '../../stores/shot.ts';
import { useTryOut } from '../../try-out.ts';
import FilePick from '../shared/FilePick.vue';
import OffenderName from './OffenderName.vue';

const props = defineProps<{ file: IntakeFile | null }>();
const shot = useShot();
const store = useIntake();
const { see, busy } = useTryOut();

const lost = computed(() => store.files.filter(({ state }) => state === 'missing').length);
const LOOKS: Record<FileBreak['look'], string> = {
  gone: 'gone from the picture',
  plain: 'plain, in one matt grey',
  'shaded wrongly': 'shaded otherwise than it should be',
  untextured: 'without its texture; the name of the file stands on it',
  unlit: 'without the light of its image',
};
const isLost = computed(() => props.file?.state === 'missing' || props.file?.state === 'unreadable');

/** Every place of the document that names the file, led to one that is not there. */
const without = computed<Record<string, unknown> | null>(() => {
  const { file } = props;
  const document = shot.state?.document;
  if (!file || !document || isLost.value) return null;
  const values: Record<string, unknown> = {};
  for (const kind of ['meshes', 'textures', 'maps', 'coats'] as const)
    for (const [id, one] of Object.entries(document[kind]))
      if ('file' in one && one.file === file.path) values[`/${kind}/${id}/file`] = `lost/${file.path}`;
  return Object.keys(values).length ? values : null;
});

const choose = (input: HTMLInputElement) => void store.bringFiles(filesOfInput(input));
</script>

<template>
  <div class="files">
    <article v-if="file">
      <h2>{{ file.path }}</h2>
      <p class="dim">{{ file.kind }}, {{ fileState(file.state) }}{{ file.bytes ? `, ${fileSize(file.bytes)}` : '' }}</p>
      <template v-for="one in file.breaks" :key="one.look">
        <p class="soft">
          {{ number(one.objects.length) }} {{ one.objects.length === 1 ? 'thing' : 'things' }}
          {{ isLost ? '' : 'would be ' }}{{ LOOKS[one.look] }}:
        </p>
        <ul>
          <li v-for="object in one.objects.slice(0, 12)" :key="object"><OffenderName :name="object" /></li>
          <li v-if="one.objects.length > 12" class="dim">and {{ number(one.objects.length - 12) }} more</li>
        </ul>
      </template>
      <p v-if="file.breaks.length === 0 && file.kind !== 'scene'" class="dim">Nothing in the picture comes from it.</p>
      <Button
        v-if="without"
        severity="secondary"
        variant="outlined"
        :disabled="busy"
        @click="see(`Without ${file.path}`, without)"
      >
        See it without
      </Button>
    </article>
    <p v-if="lost" class="soft">
      {{ lost === 1 ? 'One file is' : `${lost} files are` }} missing. Import the folder where they may be: they are
      found by path, by checksum, or by name.
    </p>
    <p v-if="store.sending" role="status">
      Uploading … {{ percent(store.sent) }}
      <ProgressBar :value="Math.round(100 * store.sent)" :show-value="false" aria-label="Uploading files" />
      <Button severity="secondary" variant="text" @click="store.sending.cancel()">Cancel</Button>
    </p>
    <div v-else class="pair">
      <FilePick label="Import files of the shot" multiple @pick="choose">Import files …</FilePick>
      <FilePick label="Import a folder of files" folder @pick="choose">Import folder …</FilePick>
    </div>
    <p class="soft">
      A package is one archive of the shot and all its files, equal ones once, with checksums. Making one changes
      nothing here{{ lost ? '; it needs every file' : '' }}.
    </p>
    <div v-if="!lost" class="pair">
      <Button as="a" :href="`/api/shots/${shot.state!.code}/package.zip`" download>Download the package</Button>
      <Button severity="secondary" variant="outlined" :disabled="store.dry === 'running'" @click="store.dryRun()"
        >Dry run</Button
      >
    </div>
    <p v-if="store.dry === 'running'" class="dim" role="status">Packed, opened where nothing else is, and rendered …</p>
    <p v-else-if="store.dry?.holds" role="status">
      The package holds: opened alone it renders the same {{ number(store.dry.pixels) }} pixels bit for bit.
      {{ fileSize(store.dry.before) }} became {{ fileSize(store.dry.after) }}.
    </p>
    <p v-else-if="store.dry" class="bad" role="alert">The package does not hold: {{ store.dry.why }}.</p>
  </div>
</template>

<style scoped>
.files,
article {
  display: grid;
  gap: 10px;
  align-content: start;
  justify-items: start;
}
.files {
  padding: 12px 14px;
}
article {
  padding-bottom: 12px;
  border-bottom: 1px solid var(--line);
  width: 100%;
  overflow-wrap: anywhere;
}
ul {
  padding-left: 10px;
}
.pair {
  display: flex;
  gap: 10px;
  flex-wrap: wrap;
}
.bad {
  color: var(--stop);
}
</style>
