/** Limits far above the depth that the picture's light uses: paths are followed that bring nothing. Read off one pilot of the whole frame. */
import { LIFTED, runLimitPilot, type LimitPilot, type Limits } from '../../predict/limit-pilot.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';

export interface WasteCase extends Case {
  kind: 'waste';
  now: Limits;
  /** The least that keep 99.9 % of the light. */
  lean: Limits;
  pilot: LimitPilot;
  /** Share of the rays that the lean limits save, and of the light that they keep, 0–1. */
  saved: number;
  kept: number;
}

/** Pixels that are traced, about, and groups of samples of each. */
const PIXELS = 2500;
const GROUPS = 2;
const KEPT = 0.999;
/** Share of the rays from which on they are worth a word; and a limit must be this many times what is used. */
const WORTH = 0.1;
const TIMES = 2;

const KINDS = ['transmission', 'specular', 'diffuse', 'volume', 'alpha', 'overall'] as const;

export function wasteCases({ scene, sheet, picture, pilotSeed }: RenderInput): WasteCase[] {
  const step = Math.max(1, Math.floor((picture.width * picture.height) / PIXELS));
  const pixels = Uint32Array.from({ length: Math.floor((picture.width * picture.height) / step) }, (_, k) => k * step);
  const pilot = runLimitPilot(scene, settingsOf(sheet), pixels, new Uint8Array(pixels.length).fill(1), GROUPS, pilotSeed);
  const now = sheet.limits;
  const [light, rays] = [pilot.energy(now), pilot.rays(now)];
  // Where limits take light there is none to spare.
  if (!(light >= KEPT * pilot.energy(LIFTED)) || !(rays > 0)) return [];
  const lean = { ...now };
  for (const kind of KINDS) {
    // Each kind has its part of the thousandth that may go.
    const floor = light * (1 - (1 - KEPT) * ((KINDS.indexOf(kind) + 1) / KINDS.length));
    while (lean[kind] > 0 && pilot.energy({ ...lean, [kind]: lean[kind] - 1 }) >= floor) lean[kind]--;
  }
  // What costs nothing stays: a limit of alpha where nothing is see-through.
  for (const kind of KINDS)
    if (pilot.rays({ ...lean, [kind]: now[kind] }) === pilot.rays(lean)) lean[kind] = now[kind];
  const isFar = KINDS.some((kind) => now[kind] >= TIMES * Math.max(1, lean[kind]));
  const saved = 1 - pilot.rays(lean) / rays;
  if (!isFar || saved < WORTH) return [];
  return [
    {
      key: 'limits.waste',
      kind: 'waste',
      severity: 'note',
      region: { x: 0, y: 0, width: picture.width, height: picture.height },
      mask: null,
      passes: ['beauty', 'rays'],
      now,
      lean,
      pilot,
      saved,
      kept: pilot.energy(lean) / light,
    },
  ];
} // prettier-ignore
