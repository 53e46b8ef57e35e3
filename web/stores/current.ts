/** What the workspace is about at the moment, from the shot's state and the view: render, finding, trial, region. */
import { defineStore } from 'pinia';
import { computed, shallowRef, watch } from 'vue';
import type { FindingSummary } from '../../core/contracts/events.ts';
import type { Region } from '../../core/data/picture.ts';
import type { PassFigures } from '../../core/picture/pass-figures.ts';
import { filmLayout } from '../../core/render/film/film-layout.ts';
import { passList } from '../../core/render/film/pass-list.ts';
import { getJson } from '../remote/client.ts';
import { useShot } from './shot.ts';
import { useView } from './view.ts';

export const useCurrent = defineStore('current', () => {
  const shot = useShot();
  const view = useView();

  const render = computed(() => shot.renderOf(view.renderId) ?? shot.newestBase);
  const findings = computed(() => shot.findingsOf(render.value?.id ?? null));
  /** The finding that was chosen last: looked at again, a render has it under another id. */
  const chosen = shallowRef<FindingSummary | null>(null);
  const byId = computed(() => findings.value.find((f) => f.id === view.findingId) ?? null);
  watch(byId, (found) => found && (chosen.value = found), { immediate: true });
  const foundAgain = computed(() => {
    const last = chosen.value?.id === view.findingId ? chosen.value : null;
    return last && (findings.value.find((f) => f.key === last.key && f.renderId === last.renderId) ?? null);
  });
  /** The chosen finding, or the worst that is open. */
  const finding = computed(
    () => byId.value ?? foundAgain.value ?? findings.value.find((f) => f.aside === null) ?? null,
  );
  const trial = computed(() => shot.trial(view.trialId));
  /** The sweep that is up, or that the trial which is up is a step of. */
  const sweep = computed(() => shot.sweep(trial.value?.sweepId ?? view.sweepId));
  /** The chosen finding in full, once it is here. */
  const detail = computed(() => (finding.value ? shot.findingInFull(finding.value.id) : null));
  const region = computed<Region | null>(() => view.region ?? detail.value?.where.region ?? null);
  const sheetName = computed(() => render.value?.sheet ?? 'preview');
  const sheet = computed(() => shot.state?.document.sheets[sheetName.value] ?? null);

  const document = computed(() => shot.state?.document ?? null);
  /** Passes there are, by the present document; an older render may lack some. */
  const passes = computed(() =>
    shot.state && sheet.value ? passList(filmLayout(shot.state.document, sheet.value)) : passList(),
  );

  const figures = shallowRef<PassFigures | null>(null);
  async function readFigures(id: number): Promise<void> {
    try {
      const read = await getJson<PassFigures>(`/renders/${id}/figures`);
      if (render.value?.id === id) figures.value = read;
    } catch {
      // The next step of the render reads them again.
    }
  }
  // A render that goes on is measured at each tenth of it, not at each tile: figures take all passes of all tiles.
  watch(
    () => render.value && `${render.value.id} ${render.value.state} ${Math.floor(render.value.progress * 10)}`,
    (now, before) => {
      if (now?.split(' ')[0] !== before?.split(' ')[0]) figures.value = null;
      if (render.value && render.value.samplesDone > 0) void readFigures(render.value.id);
    },
    { immediate: true },
  );

  /** Takes out of what is looked at what an address names and the shot does not have. */
  function dropMissing(): void {
    if (view.renderId !== null && !shot.renderOf(view.renderId)) view.renderId = null;
    if (view.trialId !== null && !shot.trial(view.trialId)) view.trialId = null;
    if (view.sweepId !== null && !shot.sweep(view.sweepId)) view.sweepId = null;
    if (!passes.value.some(({ name }) => name === view.pass)) view.pass = 'beauty';
  }

  /** Starts over, for another shot. */
  function reset(): void {
    figures.value = null;
  }

  return {
    render,
    findings,
    finding,
    detail,
    trial,
    sweep,
    region,
    sheetName,
    sheet,
    document,
    passes,
    figures,
    dropMissing,
    reset,
  };
});
