/** The shot that is open: its live state, and the changes a person can make to it. */
import { LRUCache } from 'lru-cache';
import { defineStore } from 'pinia';
import { computed, effectScope, nextTick, ref, shallowRef, watch, type EffectScope } from 'vue';
import type { Finding } from '../../core/contracts/finding.ts';
import type {
  FindingSummary,
  RenderSummary,
  ShotState,
  SweepSummary,
  TrialSummary,
} from '../../core/contracts/events.ts';
import type { ApartRequest, FarmRequest, SweepRequest, TrialRequest } from '../../core/contracts/requests.ts';
import { together } from '../../core/diagnose/version-findings.ts';
import type { SheetName, ShotDocument } from '../../core/document/schema.ts';
import type { Region } from '../../core/data/picture.ts';
import { getJson, post, Refused } from '../remote/client.ts';
import { follow } from '../remote/live.ts';
import { useMessages } from './messages.ts';

type Values = Record<string, unknown>;

/** The state of a shot with the document of its head, which is fetched once for each version. */
export interface OpenShot extends ShotState {
  document: ShotDocument;
}
/** Documents that are kept, for undo and redo. */
const DOCUMENTS_KEPT = 4;

/** Milliseconds that a change waits for the page to hear of it. */
const HEAD_WAIT = 5000;

export const useShot = defineStore('shot', () => {
  const state = shallowRef<OpenShot | null>(null);
  const connected = ref(true);
  /** Why the shot cannot be shown, when it cannot. */
  const missing = ref<string | null>(null);
  let scope: EffectScope | null = null;

  function open(code: string): void {
    close();
    scope = effectScope(true);
    scope.run(() => {
      const live = follow<ShotState>(`/shots/${code}/events`, `/shots/${code}`, (why) => (missing.value = why));
      watch(live.state, (next) => next && void receive(next));
      watch(live.connected, (up) => (connected.value = up));
    });
    // An event stream cannot say why it was refused; a plain request can.
    getJson<ShotState>(`/shots/${code}`)
      .then((first) => (state.value ? undefined : receive(first)))
      .catch((error: Refused) => {
        if (error.status === 404) {
          missing.value = error.message;
          scope?.stop();
        }
      });
  }

  const documents = new LRUCache<number, Promise<ShotDocument>>({ max: DOCUMENTS_KEPT });
  let turn = 0;
  /** The state that was received last, as text. */
  let received = '';
  /** Shows a state once the document of its head is here; one that comes meanwhile goes before it. */
  async function receive(next: ShotState): Promise<void> {
    // Asked for and sent, the first one comes twice; drawing all of the page again would hold up the picture.
    const text = JSON.stringify(next);
    if (text === received) return;
    received = text;
    const mine = ++turn;
    const { id } = next.head;
    const coming = documents.get(id) ?? getJson<ShotDocument>(`/versions/${id}/document`);
    documents.set(id, coming);
    try {
      const document = await coming;
      if (mine === turn) state.value = { ...next, document };
    } catch {
      // The next state asks again.
      documents.delete(id);
      received = '';
    }
  }

  /** Findings in full, by id: they never change. */
  const whole = shallowRef(new Map<number, Finding>());
  const asked = new Set<number>();
  /** @returns null until it is here */
  function findingInFull(id: number): Finding | null {
    const known = whole.value.get(id);
    if (known) return known;
    if (!asked.has(id)) {
      asked.add(id);
      getJson<Finding>(`/findings/${id}`)
        .then((one) => (whole.value = new Map([...whole.value, [id, one]])))
        .catch(() => asked.delete(id));
    }
    return null;
  }

  function close(): void {
    turn += 1;
    received = '';
    documents.clear();
    whole.value = new Map();
    asked.clear();
    scope?.stop();
    scope = null;
    state.value = null;
    missing.value = null;
    connected.value = true;
  }

  const bases = computed(() => state.value?.renders.filter((r) => r.purpose === 'base') ?? []);
  /** Newest base render of the whole frame. */
  const newestBase = computed<RenderSummary | null>(
    () => bases.value.findLast((r) => r.region.width === r.width && r.region.height === r.height) ?? null,
  );
  const renderOf = (id: number | null) => state.value?.renders.find((r) => r.id === id) ?? null;
  const trial = (id: number | null) => state.value?.trials.find((t) => t.id === id) ?? null;
  const sweep = (id: number | null) => state.value?.sweeps.find((s) => s.id === id) ?? null;
  const stepsOf = (id: number) => state.value?.trials.filter((t) => t.sweepId === id) ?? [];
  const finding = (id: number | null) => state.value?.findings.find((f) => f.id === id) ?? null;

  /** Findings of one render and of its version, in one list, the most urgent first; dismissed ones last. */
  function findingsOf(renderId: number | null): FindingSummary[] {
    const all = state.value?.findings ?? [];
    const versionId = renderOf(renderId)?.versionId ?? state.value?.head.id;
    const ofRender = all.filter((f) => f.renderId !== null && f.renderId === renderId);
    const list = together(ofRender, all.filter((f) => f.renderId === null && f.versionId === versionId)); // prettier-ignore
    return [...list.filter((f) => f.aside === null), ...list.filter((f) => f.aside !== null)];
  }
  /** Whether a render shows another document than the shot's present one. */
  const isOlder = (r: RenderSummary) => r.versionId !== state.value?.head.id;
  const running = computed(() => state.value?.renders.filter((r) => r.state === 'active') ?? []);

  /** Does a change and says why when it was refused. @returns whether it was done */
  async function attempt(work: Promise<unknown>): Promise<boolean> {
    try {
      await work;
      return true;
    } catch (error) {
      useMessages().refused(error);
      return false;
    }
  }
  /** Changes of the head, one after the other: each goes by the version that the one before has made. */
  let changes: Promise<unknown> = Promise.resolve();
  function change(work: () => Promise<unknown>, isPossible = () => true): Promise<boolean> {
    const done = changes.then(async () => {
      if (!isPossible()) return false;
      const before = state.value?.head.id;
      const isDone = await attempt(work());
      if (isDone) await headAfter(before);
      return isDone;
    });
    changes = done;
    return done;
  }
  /** Resolves once the page knows a newer head, or when it has waited long enough. */
  function headAfter(before: number | undefined): Promise<void> {
    return new Promise((resolve) => {
      const stop = watch(
        () => state.value?.head.id,
        (now) => now !== before && end(),
      );
      const late = setTimeout(end, HEAD_WAIT);
      function end(): void {
        stop();
        clearTimeout(late);
        resolve();
      }
      if (state.value?.head.id !== before) end();
    });
  }
  /** Begins something that the shot's state then has. @returns it, once the page knows it; null when it was refused */
  async function begin<A, T>(work: Promise<A>, find: (now: OpenShot, answer: A) => T | undefined): Promise<T | null> {
    try {
      const answer = await work;
      return await new Promise((resolve) => {
        const stop = watch(
          state,
          (now) => {
            const found = now ? find(now, answer) : null;
            if (found === undefined) return;
            void nextTick(() => stop());
            resolve(found);
          },
          { immediate: true },
        );
      });
    } catch (error) {
      useMessages().refused(error);
      return null;
    }
  }
  const tryOut = (request: TrialRequest): Promise<TrialSummary | null> =>
    begin(post<{ number: number }>(path('/trials'), request), (now, { number }) =>
      now.trials.find((t) => t.number === number),
    );
  const beginSweep = (request: SweepRequest): Promise<SweepSummary | null> =>
    begin(post<{ id: number }>(path('/sweeps'), request), (now, { id }) => now.sweeps.find((s) => s.id === id));
  const path = (rest: string) => `/shots/${state.value!.code}${rest}`;
  const base = () => state.value!.head.id;

  return {
    state, connected, missing, bases, newestBase, running,
    open, close, renderOf, trial, sweep, stepsOf, finding, findingInFull, findingsOf, isOlder,
    renderSheet: (sheet: SheetName, region: Region | null = null) =>
      attempt(post(path('/renders'), { sheet, region })),
    stopRender: (id: number) => attempt(post(`/renders/${id}/stop`)),
    stopExamination: (id: number) => attempt(post(`/renders/${id}/examination/stop`)),
    resumeExamination: (id: number) => attempt(post(`/renders/${id}/examination/continue`)),
    continueRender: (id: number, samples: number) => attempt(post(`/renders/${id}/continue`, { samples })),
    setDials: (sheets: SheetName[], values: Values) => change(() => post(path('/dials'), { base: base(), sheets, values })),
    addItem: (pointer: string, item: object | null) => change(() => post(path('/dials'), { base: base(), sheets: ['preview'], values: { [pointer]: item } })),
    removeItems: (remove: string[]) => change(() => post(path('/dials'), { base: base(), sheets: ['preview'], values: {}, remove })),
    renderFrames: (sheet: SheetName, frames: number[]) => attempt(post(path('/frames'), { sheet, frames })),
    stopFrames: (range: number) => attempt(post(`/frame-ranges/${range}/stop`)),
    returnTo: (version: number) => change(() => post(path('/return'), { base: base(), version })),
    nameVersion: (id: number, name: string) => attempt(post(`/versions/${id}/name`, { name }, 'PUT')),
    undo: () => change(() => post(path('/undo'), { base: base() }), () => state.value?.undo !== null),
    redo: () => change(() => post(path('/redo'), { base: base() }), () => state.value?.redo !== null),
    measureFrames: (sheet: SheetName, versions: number[]) => attempt(post(path('/frame-times'), { sheet, versions })),
    keepFarm: (farm: FarmRequest) => attempt(post(path('/farm'), farm, 'PUT')),
    /** Waits until the open shot is as asked. */
    reached: (holds: (now: OpenShot) => boolean) => begin(Promise.resolve(), (now) => holds(now) || undefined),
    tryOut, beginSweep,
    stopSweep: (s: SweepSummary) => attempt(post(`/sweeps/${s.id}/stop`)),
    stopTrial: (t: TrialSummary) => attempt(post(`/trials/${t.id}/stop`)),
    keepApart: (t: TrialSummary, codes: ApartRequest) => attempt(post(`/trials/${t.id}/keep-apart`, codes)),
    keepTrial: (t: TrialSummary, both: boolean) => change(() => post(`/trials/${t.id}/keep`, { both })),
    dropTrial: (t: TrialSummary) => attempt(post(`/trials/${t.id}/drop`)),
    putAside: (f: FindingSummary, reason: string) => attempt(post(`/findings/${f.id}/aside`, { reason })),
    takeUp: (f: FindingSummary) => attempt(post(`/findings/${f.id}/take-up`)),
  };
}); // prettier-ignore
