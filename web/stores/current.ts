/** What the workspace is about at the moment, from the shot's state and the view: render, finding, trial, region. */
import { defineStore } from 'pinia';
import { computed, shallowRef, watch } from 'vue';
import type { Region } from '../../core/data/picture.ts';
import type { PassFigures } from '../../core/picture/pass-figures.ts';
import { getJson } from '../api/client.ts';
import { useShot } from './shot.ts';
import { useView } from './view.ts';

/** Figures of a running render are read anew at most so often. */
const FIGURES_PAUSE_MS = 3000;

export const useCurrent = defineStore('current', () => {
  const shot = useShot();
  const view = useView();

  const render = computed(() => shot.renderOf(view.renderId) ?? shot.newestBase);
  const findings = computed(() => shot.findingsOf(render.value?.id ?? null));
  /** The chosen finding, or the worst that is open. */
  const finding = computed(
    () => findings.value.find((f) => f.id === view.findingId) ?? findings.value.find((f) => f.aside === null) ?? null,
  );
  const trial = computed(() => shot.trial(view.trialId));
  const region = computed<Region | null>(() => view.region ?? finding.value?.finding.region ?? null);
  const sheetName = computed(() => render.value?.sheet ?? 'preview');
  const sheet = computed(() => shot.state?.document.sheets[sheetName.value] ?? null);

  const figures = shallowRef<(PassFigures & { revision: number }) | null>(null);
  let wanted = '';
  let timer: ReturnType<typeof setTimeout> | null = null;
  let readAt = 0;
  async function readFigures(): Promise<void> {
    timer = null;
    readAt = Date.now();
    const id = render.value?.id;
    if (id === undefined) return;
    try {
      const read = await getJson<PassFigures & { revision: number }>(`/renders/${id}/figures`);
      if (render.value?.id === id) figures.value = read;
    } catch {
      // The next change of the render reads them again.
    }
  }
  watch(
    () => render.value && `${render.value.id}.${render.value.revision}`,
    (now) => {
      if (!now || !render.value || render.value.samplesDone === 0) return;
      const [id] = now.split('.');
      if (!wanted.startsWith(`${id}.`)) figures.value = null;
      wanted = now;
      const pause = render.value.state === 'active' ? readAt + FIGURES_PAUSE_MS - Date.now() : 0;
      if (render.value.state !== 'active' && timer) {
        clearTimeout(timer);
        timer = null;
      }
      timer ??= setTimeout(() => void readFigures(), Math.max(0, pause));
    },
    { immediate: true },
  );

  /** Starts over, for another shot. */
  function reset(): void {
    figures.value = null;
    wanted = '';
  }

  return { render, findings, finding, trial, region, sheetName, sheet, figures, reset };
});
