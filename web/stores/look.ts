/**
 * What is looked at and how: sources (renders of ours, pictures that came in), which one is shown and which are held
 * against it, layer, exposure and all else that is in the address.
 */
import { defineStore } from 'pinia';
import { computed, reactive, ref, shallowReactive, shallowRef } from 'vue';
import type { LocationQuery } from 'vue-router';
import type { Region } from '../../core/data/picture.ts';
import type { BalanceRequest, LookRequest, ReadingRequest } from '../../core/contracts/requests.ts';
import type { RenderSummary } from '../../core/contracts/events.ts';
import type { LayerRole } from '../../core/formats/layers.ts';
import { AS_RENDERED, type Balance } from '../../core/picture/balance.ts';
import type { BroughtPicture, PictureSet, ShotPictures } from '../../core/picture/brought.ts';
import { DIFFERENCES, type DifferenceKind } from '../../core/picture/difference.ts';
import type { HealthFinding } from '../../core/picture/health/check.ts';
import { PLAIN_LOOK, type Look, type Solo } from '../../core/picture/look.ts';
import type { FrameFigures } from '../../core/picture/sequence/frame-figures.ts';
import { missingFrames } from '../../core/picture/sequence/names.ts';
import { SPACES, type SpaceId } from '../../core/picture/spaces.ts';
import { plural } from '../../core/intake/preflight/tell.ts';
import { TRANSFORMS, type TransformId } from '../../core/picture/transforms/registry.ts';
import { SHADOW_BOOST } from '../../core/picture/view.ts';

import type { DeskLayer, Opened, SourceRef } from '../picture/desk-messages.ts';
import { passName } from '../format.ts';
import { desk } from '../picture/desk.ts';
import { renderKey, renderRef } from '../picture/render-source.ts';
import { getJson, post, remove } from '../remote/client.ts';
import { useMessages } from './messages.ts';
import { useShot } from './shot.ts';

export interface LookSource {
  /** `r5` or `p12`. */
  key: string;
  label: string;
  told: string;
  /** Another one says that it is to be looked at anew. */
  stamp: string;
  ref: SourceRef;
  set: PictureSet | null;
  picture: BroughtPicture | null;
  render: RenderSummary | null;
}

/** A picture of a sequence. */
export interface SequenceFrame {
  key: string;
  name: string;
  frame: number;
  /** Chunks that are missing, of a file that is cut short. */
  lacks: number;
  layers: string;
  /** Null: not measured. */
  figures: FrameFigures | null;
}

export interface Sequence {
  id: string;
  frames: SequenceFrame[];
  /** Numbers between the first and the last that are not there. */
  missing: number[];
}

export const MODES = {
  one: 'One',
  wipe: 'Wipe',
  side: 'Side by side',
  difference: 'Difference',
  blink: 'Blink',
  grid: 'Grid',
  passes: 'All passes',
} as const;
export type Mode = keyof typeof MODES;
export const MOST_IN_GRID = 9;

export const PANELS = { probe: 'Probe', health: 'Health', causes: 'Causes', compare: 'Compare', lights: 'Lights', frames: 'Frames', cost: 'Cost', looks: 'Looks' } as const; // prettier-ignore
export type Panel = keyof typeof PANELS;

/** As layers are listed and walked. */
export const ROLE_ORDER: LayerRole[] = ['beauty', 'light', 'light group', 'data', 'matte', 'noise', 'other'];
const SOLOS: Solo[] = ['colour', 'red', 'green', 'blue', 'alpha', 'luminance'];

export const useLook = defineStore('look', () => {
  const shot = useShot();
  const brought = shallowRef<ShotPictures | null>(null);
  const opened = shallowReactive(new Map<string, Opened>());
  const failures = shallowReactive(new Map<string, string>());
  /** Raised when more pixels of a picture are here. */
  const rows = ref(0);

  const a = ref<string | null>(null);
  const others = ref<string[]>([]);
  const mode = ref<Mode>('one');
  const layer = ref('');
  const view = reactive<Look>({ ...PLAIN_LOOK });
  const wipe = reactive({ at: 0.5, angle: 90 });
  const blinksB = ref(false);
  const difference = reactive<{ kind: DifferenceKind; times: number }>({ kind: 'absolute', times: 1 });
  /** Goes to workers as it is. */
  const region = shallowRef<Region | null>(null);
  const panel = ref<Panel>('health');
  const guides = ref<'none' | 'thirds' | 'safe' | 'centre'>('none');
  const isNormalised = ref(false);
  const mask = shallowRef<{ finding: HealthFinding } | { matte: string; of: string } | null>(null);
  const pins = ref<{ x: number; y: number; text: string }[]>([]);
  /** Scale, and the place of the frame at the middle of the screen; null: fitted. */
  const place = shallowRef<{ scale: number; x: number; y: number } | null>(null);
  /** Replaced as a whole: it goes to the worker as it is. */
  const balance = shallowRef<Balance>({});
  /** Where the scale of the layer that is shown ends; null for layers without one. */
  const scaleTop = ref<number | null>(null);

  const sources = computed<LookSource[]>(() => [...ofRenders(), ...ofPictures()]);

  function ofRenders(): LookSource[] {
    const { state } = shot;
    return (state?.renders ?? [])
      .filter((render) => render.samplesDone > 0)
      .map((render): LookSource => {
        const trial = state!.trials.find((t) => t.beforeRenderId === render.id || t.afterRenderId === render.id);
        const side = trial ? (trial.afterRenderId === render.id ? 'after' : 'before') : '';
        return {
          key: renderKey(render),
          label: trial ? `Trial ${trial.number}, ${side}` : `${render.frame === null ? '' : `Frame ${render.frame}, `}${render.frame === null ? 'V' : 'v'}ersion ${render.version}, ${render.sheet}`,
          told: `${render.width} × ${render.height}, ${Math.round(render.samplesDone)} samples${render.state === 'active' ? ', going on' : ''}`,
          stamp: stampOf(render),
          ref: renderRef(render, state!.document),
          set: null,
          picture: null,
          render,
        };
      });
  }

  /** A render that goes on is looked at anew at each tenth of it, not at each tile. */
  const stampOf = (render: RenderSummary) => `r${render.id} ${render.state === 'active' ? Math.floor(render.progress * 10) : render.revision}`; // prettier-ignore

  const ofPictures = (): LookSource[] =>
    (brought.value?.sets ?? []).flatMap((set) =>
      set.pictures.map((picture): LookSource => {
        const { displayWindow: w } = picture.facts.parts[0];
        return {
          key: `p${picture.id}`,
          label: `${picture.name}${set.take > 1 ? `, take ${set.take}` : ''}`,
          told: `${w.maxX - w.minX + 1} × ${w.maxY - w.minY + 1}, ${plural(picture.facts.layers.length, 'layer')}`,
          stamp: `p${picture.id}`,
          ref: { kind: 'picture', id: picture.id, name: picture.name },
          set,
          picture,
          render: null,
        };
      }),
    );

  const sourceOf = (key: string | null): LookSource | null => sources.value.find((one) => one.key === key) ?? null;
  /** The first of the pictures that came last. */
  const newestPicture = () => sources.value.find(({ set }) => set !== null && set.id === brought.value?.sets.at(-1)?.id);
  /** The newest render of the whole picture that has samples: one that has only begun has nothing to show. */
  const newestWhole = () =>
    sources.value.findLast(({ render: r }) => r?.purpose === 'base' && r.region.width === r.width && r.region.height === r.height); // prettier-ignore
  /** The one that is shown: as chosen, else the newest picture or base render. */
  const shown = computed<LookSource | null>(
    () => sourceOf(a.value) ?? newestPicture() ?? newestWhole() ?? sources.value.at(-1) ?? null,
  );
  const against = computed(() => others.value.flatMap((key) => sourceOf(key) ?? []).filter((one) => one.key !== shown.value?.key)); // prettier-ignore
  const information = computed(() => (shown.value ? (opened.get(shown.value.key) ?? null) : null));

  /** Layers with the roles that a person gave them. */
  const layers = computed<DeskLayer[]>(() => {
    const roles = shown.value?.set?.reading.roles ?? {};
    const named = (information.value?.layers ?? []).map((one) => ({ ...one, role: roles[one.name] ?? one.role }));
    return named.sort((p, q) => ROLE_ORDER.indexOf(p.role) - ROLE_ORDER.indexOf(q.role));
  });
  /** The layer that is shown: as chosen, else the beauty. */
  const shownLayer = computed<DeskLayer | null>(
    () =>
      layers.value.find(({ name }) => name === layer.value) ??
      layers.value.find(({ role }) => role === 'beauty') ??
      layers.value[0] ??
      null,
  );

  /** As a person corrected it, where somebody did. */
  const beautyName = computed(() => layers.value.find(({ role }) => role === 'beauty')?.name ?? null);

  const isBoosted = computed(() => view.exposure === SHADOW_BOOST.exposure && view.gamma === SHADOW_BOOST.gamma);
  function toggleBoost(): void {
    Object.assign(view, isBoosted.value ? { exposure: 0, gamma: 1 } : SHADOW_BOOST);
  }

  /** Ours by the names people know, those of files as the file has them. */
  const layerTitle = (name: string) => (shown.value?.render ? passName(name) : name || 'beauty');

  /** Light groups as wholes: the passes of one stand below its name. */
  const groups = computed(() => {
    const all = layers.value.filter(({ role, look }) => role === 'light group' && look === 'light');
    return all.filter(({ name }) => !all.some((other) => name.startsWith(`${other.name}.`)));
  });
  const ofGroup = (name: string) => balance.value[name] ?? AS_RENDERED;

  async function open(source: LookSource): Promise<void> {
    try {
      const { key, ref: wanted } = source;
      const told = await desk.ask('open', { key, ref: wanted });
      opened.set(key, told);
      failures.delete(key);
      rows.value += 1;
    } catch (error) {
      failures.set(source.key, (error as Error).message);
    }
  }
  desk.onRows = (key, told) => {
    opened.set(key, told);
    rows.value += 1;
  };

  async function read(code: string): Promise<void> {
    try {
      const now = await getJson<ShotPictures>(`/shots/${code}/pictures`);
      if (shot.state?.code !== code) return;
      brought.value = now;
      balance.value = { ...now.balance };
    } catch (error) {
      useMessages().refused(error);
    }
  }

  /** Holds a picture against the one that is shown, or no more. */
  function toggleOther(key: string): void {
    if (others.value.includes(key)) others.value = others.value.filter((one) => one !== key);
    else others.value = [...others.value, key].slice(-(MOST_IN_GRID - 1));
    if (against.value.length === 0) mode.value = 'one';
    else if (mode.value === 'one' || mode.value === 'passes') {
      mode.value = against.value.length > 1 ? 'grid' : 'wipe';
      panel.value = 'compare';
    }
  }

  function show(key: string): void {
    if (shown.value && others.value.includes(key)) others.value = others.value.map((one) => (one === key ? shown.value!.key : one)); // prettier-ignore
    a.value = key;
    mask.value = null;
  }

  /** Figures of frames that were rendered here, by the stamp of what they were measured of. */
  const measured = shallowRef(new Map<string, FrameFigures | null>());
  /** The sequence that the picture which is shown is a frame of: pictures of one name, or a range of frames of ours. */
  const sequence = computed<Sequence | null>(() => {
    const { set, render } = shown.value ?? {};
    const frames = set ? framesOfSet(set) : render?.range ? framesOfRange(render.range) : [];
    if (frames.length < 2) return null;
    const id = set ? `set ${set.id}` : `range ${render!.range}`;
    return { id, frames, missing: set ? missingFrames(frames.map(({ frame }) => frame)) : [] };
  });
  const framesOfSet = (set: PictureSet): SequenceFrame[] =>
    set.pictures.flatMap(({ id, name, frame, facts }) =>
      frame === null
        ? []
        : [{ key: `p${id}`, name, frame, lacks: facts.missingChunks, layers: facts.layers.map((one) => one.name).join(), figures: facts.figures }],
    ); // prettier-ignore
  const framesOfRange = (range: number): SequenceFrame[] =>
    sources.value.flatMap(({ key, stamp, render }) =>
      render?.range === range
        ? [{ key, name: `frame ${render.frame}`, frame: render.frame!, lacks: 0, layers: '', figures: measured.value.get(stamp) ?? null }]
        : [],
    ); // prettier-ignore

  /** Measures the frames of a range that are finished and were not measured yet. */
  async function measureFrames(): Promise<void> {
    for (const { key } of sequence.value?.frames ?? []) {
      const source = sourceOf(key);
      if (!source?.render || source.render.state === 'active' || measured.value.has(source.stamp)) continue;
      measured.value = new Map([...measured.value, [source.stamp, null]]);
      await open(source);
      const figures = await desk.ask('frame', { key }).catch(() => null);
      measured.value = new Map([...measured.value, [source.stamp, figures]]);
    }
  }

  function reset(): void {
    brought.value = null;
    opened.clear();
    failures.clear();
    balance.value = {};
  }

  const query = computed(() => {
    const out: Record<string, string> = {};
    if (a.value) out.a = a.value;
    if (others.value.length) out.b = others.value.join();
    if (mode.value !== 'one') out.mode = mode.value;
    if (layer.value) out.layer = layer.value;
    if (view.exposure) out.exposure = String(view.exposure);
    if (view.gamma !== 1) out.gamma = String(view.gamma);
    if (view.offset) out.offset = String(view.offset);
    if (view.transform !== 'srgb') out.transform = view.transform;
    if (view.space !== 'rec709') out.space = view.space;
    if (view.solo !== 'colour') out.solo = view.solo;
    if (view.isInStops) out.stops = '1';
    if (view.marks) out.marks = '1';
    if (view.behind !== 'nothing') out.behind = view.behind;
    if (mode.value === 'wipe') out.wipe = `${wipe.at.toFixed(3)},${wipe.angle}`;
    if (mode.value === 'difference') out.difference = `${difference.kind},${difference.times}`;
    if (region.value) out.region = [region.value.x, region.value.y, region.value.width, region.value.height].join();
    if (panel.value !== 'health') out.panel = panel.value;
    if (guides.value !== 'none') out.guides = guides.value;
    if (place.value) out.place = [place.value.scale, place.value.x, place.value.y].map((v) => +v.toFixed(3)).join();
    return out;
  });

  /** Takes everything from an address; what is not in it, or no sense, gets its default. */
  function fromQuery(from: LocationQuery | Record<string, string>): void {
    const text = (key: string) => (typeof from[key] === 'string' ? (from[key] as string) : '');
    const number = (key: string, min: number, max: number, or: number) =>
      text(key) !== '' && Number.isFinite(Number(text(key))) ? Math.max(min, Math.min(max, Number(text(key)))) : or;
    const numbers = (key: string) => text(key).split(',').map(Number);
    a.value = text('a') || null;
    others.value = text('b').split(',').filter(Boolean).slice(0, MOST_IN_GRID - 1);
    mode.value = Object.hasOwn(MODES, text('mode')) ? (text('mode') as Mode) : 'one';
    layer.value = text('layer');
    Object.assign(view, {
      exposure: number('exposure', -20, 20, 0),
      gamma: number('gamma', 0.2, 5, 1),
      offset: number('offset', -10, 10, 0),
      transform: Object.hasOwn(TRANSFORMS, text('transform')) ? (text('transform') as TransformId) : 'srgb',
      space: Object.hasOwn(SPACES, text('space')) ? (text('space') as SpaceId) : 'rec709',
      solo: SOLOS.find((one) => one === text('solo')) ?? 'colour',
      isInStops: text('stops') === '1',
      marks: text('marks') === '1',
      behind: (['checker', 'grey'] as const).find((one) => one === text('behind')) ?? 'nothing',
    } satisfies Look);
    const [at, angle] = text('wipe') ? numbers('wipe') : [0.5, 90];
    if (Number.isFinite(at)) wipe.at = Math.max(0, Math.min(1, at));
    if (Number.isFinite(angle)) wipe.angle = ((angle % 360) + 360) % 360;
    const [kind, times] = text('difference').split(',');
    difference.kind = Object.hasOwn(DIFFERENCES, kind) ? (kind as DifferenceKind) : 'absolute';
    difference.times = Number(times) > 0 ? Math.min(1024, Number(times)) : 1;
    const parts = numbers('region');
    const isRegion = parts.length === 4 && parts.every(Number.isInteger) && parts[2] > 0 && parts[3] > 0;
    region.value = isRegion ? { x: parts[0], y: parts[1], width: parts[2], height: parts[3] } : null;
    panel.value = Object.hasOwn(PANELS, text('panel')) ? (text('panel') as Panel) : 'health';
    guides.value = (['thirds', 'safe', 'centre'] as const).find((one) => one === text('guides')) ?? 'none';
    const [scale, x, y] = numbers('place');
    place.value = scale > 0 && scale <= 64 && Number.isFinite(x + y) ? { scale, x, y } : null;
    pins.value = [];
    mask.value = null;
  }

  const attempt = async (work: Promise<unknown>): Promise<boolean> => {
    try {
      await work;
      return true;
    } catch (error) {
      useMessages().refused(error);
      return false;
    }
  };
  const code = () => shot.state!.code;

  return {
    brought, opened, failures, rows, a, others, mode, layer, view, wipe, blinksB, difference, region, panel, guides,
    isNormalised, mask, pins, place, balance, scaleTop, sources, shown, against, information, layers, shownLayer, beautyName, isBoosted,
    groups, sequence, measureFrames, query,
    layerTitle, sourceOf, ofGroup, open, read, reset, show, toggleOther, toggleBoost, fromQuery,
    keepBalance: () => attempt(post(`/shots/${code()}/balance`, balance.value satisfies BalanceRequest, 'PUT')),
    keepLook: (look: LookRequest) => attempt(post(`/shots/${code()}/looks`, look)),
    dropLook: (id: number) => attempt(remove(`/looks/${id}`)),
    readSet: (id: number, reading: ReadingRequest) => attempt(post(`/picture-sets/${id}`, reading, 'PUT')),
    dropSet: (id: number) => attempt(remove(`/picture-sets/${id}`)),
  };
}); // prettier-ignore
