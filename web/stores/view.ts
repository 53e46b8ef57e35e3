/**
 * What is on screen and how: which picture, pass, exposure, region, finding and trial. All of it is in
 * the address, so that a colleague who opens the same link sees the same thing.
 */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import type { LocationQuery } from 'vue-router';
import type { Region } from '../../core/data/picture.ts';
import { isOfDocument } from '../../core/document/pointers.ts';
import { PLAIN_VIEW, SHADOW_BOOST } from '../../core/picture/view.ts';

const PANELS = ['findings', 'light', 'sheets', 'scene', 'history', 'budget'] as const;
type Panel = (typeof PANELS)[number];

export const useView = defineStore('view', () => {
  /** Null: the newest base render. */
  const renderId = ref<number | null>(null);
  const findingId = ref<number | null>(null);
  const trialId = ref<number | null>(null);
  /** Its contact sheet is up wherever no trial is. */
  const sweepId = ref<number | null>(null);
  const pass = ref('beauty');
  const exposure = ref(PLAIN_VIEW.exposure);
  const gamma = ref(PLAIN_VIEW.gamma);
  /** Set by hand; null takes the finding's own. */
  const region = ref<Region | null>(null);
  const showMask = ref(true);
  /** Where the wipe of a trial stands, 0 all before … 1 all after. */
  const wipe = ref(0.5);
  const panel = ref<Panel>('findings');
  /** Dial to point at in the sheets panel. */
  const dial = ref<string | null>(null);

  const isBoosted = computed(
    () => exposure.value === SHADOW_BOOST.exposure && gamma.value === SHADOW_BOOST.gamma,
  );

  function setView(view: { exposure: number; gamma: number }): void {
    exposure.value = view.exposure;
    gamma.value = view.gamma;
  }
  const toggleBoost = () => setView(isBoosted.value ? PLAIN_VIEW : SHADOW_BOOST);

  /** Item of the scene whose controls are shown, by its pointer. */
  const item = ref<string | null>(null);
  /** Further items that are set along with it. */
  const beside = ref<string[]>([]);
  /** All that are chosen, the first being `item`. */
  const items = computed(() => (item.value === null ? [] : [item.value, ...beside.value]));
  function choose(pointers: readonly string[]): void {
    [item.value = null, ...beside.value] = pointers as [string | null, ...string[]];
  }

  /** Pixel of the frame whose light is asked about. */
  const place = ref<[number, number] | null>(null);
  /** The region is asked instead. */
  const asksRegion = ref(false);
  function askAt(x: number, y: number): void {
    place.value = [Math.floor(x), Math.floor(y)];
    asksRegion.value = false;
    panel.value = 'light';
  }
  function askRegion(): void {
    asksRegion.value = true;
    panel.value = 'light';
  }

  /** Whether the scene is shown from outside, beside the picture. */
  const isStaged = ref(false);
  /** An image that it is asked of what it is to be. */
  const adding = shallowRef<File | null>(null);
  /** Files of a scene whose objects are to be added. */
  const addingScene = shallowRef<{ path: string; file: File }[] | null>(null);
  /** Whether images of another shot are looked through. */
  const isBorrowing = ref(false);
  /** Whether it is asked which frames are rendered. */
  const isFraming = ref(false);
  /** The trial that is asked about: how it is to be kept. */
  const keepingId = ref<number | null>(null);

  /** Shows a control where its kind stands, whatever it is of. */
  function showDial(pointer: string): void {
    dial.value = pointer;
    panel.value = isOfDocument(pointer) ? 'scene' : 'sheets';
    if (isOfDocument(pointer)) choose([pointer]);
  }

  const query = computed(() => {
    const out: Record<string, string> = {};
    if (renderId.value !== null) out.render = String(renderId.value);
    if (findingId.value !== null) out.finding = String(findingId.value);
    if (trialId.value !== null) out.trial = String(trialId.value);
    if (sweepId.value !== null) out.sweep = String(sweepId.value);
    if (pass.value !== 'beauty') out.pass = pass.value;
    if (exposure.value !== 0) out.exposure = String(exposure.value);
    if (gamma.value !== 1) out.gamma = String(gamma.value);
    if (region.value) out.region = [region.value.x, region.value.y, region.value.width, region.value.height].join();
    if (panel.value !== 'findings') out.panel = panel.value;
    if (isStaged.value) out.stage = '1';
    if (asksRegion.value) out.at = 'region';
    else if (place.value) out.at = place.value.join();
    if ((panel.value === 'scene' || panel.value === 'sheets') && item.value) out.item = items.value.join();
    return out;
  });

  /** Takes everything from an address; what is not in it, or no sense, gets its default. */
  function fromQuery(from: LocationQuery): void {
    const number = (key: string) => {
      const value = Number(from[key]);
      return from[key] && Number.isFinite(value) ? value : null;
    };
    renderId.value = number('render');
    findingId.value = number('finding');
    trialId.value = number('trial');
    sweepId.value = number('sweep');
    pass.value = typeof from.pass === 'string' ? from.pass : 'beauty';
    exposure.value = Math.max(-10, Math.min(10, number('exposure') ?? 0));
    gamma.value = Math.max(0.2, Math.min(5, number('gamma') ?? 1));
    const parts = typeof from.region === 'string' ? from.region.split(',').map(Number) : [];
    const isRegion = parts.length === 4 && parts.every((n) => Number.isInteger(n) && n >= 0) && parts[2] && parts[3];
    region.value = isRegion ? { x: parts[0], y: parts[1], width: parts[2], height: parts[3] } : null;
    panel.value = PANELS.find((name) => name === from.panel) ?? 'findings';
    choose(typeof from.item === 'string' ? from.item.split(',') : []);
    isStaged.value = from.stage === '1';
    const at = typeof from.at === 'string' ? from.at.split(',').map(Number) : [];
    asksRegion.value = from.at === 'region';
    place.value = at.length === 2 && at.every((n) => Number.isInteger(n) && n >= 0) ? [at[0], at[1]] : null;
    dial.value = null;
  }

  return {
    renderId, findingId, trialId, sweepId, pass, exposure, gamma, region, showMask, wipe, panel, dial, item, items, choose, place, asksRegion, isFraming, keepingId, isStaged, adding, addingScene, isBorrowing,
    isBoosted, query, setView, toggleBoost, showDial, askAt, askRegion, fromQuery,
  };
}); // prettier-ignore
