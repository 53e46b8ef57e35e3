/**
 * A frame that is black all over, or shows no object. What could light it is gone through light by light: each is off, hidden, at
 * zero or linked away, or shines and does not get there; and whether the camera sees anything at all.
 */
import { boostedDisplay } from '../../data/grain.ts';
import { channel } from '../../data/picture.ts';
import type { LightSpec, ShotDocument } from '../../document/schema.ts';
import type { ControlValues } from '../../document/set-values.ts';
import { isDark, isUnlit } from '../../lights/is-dark.ts';
import { luminancePlane } from '../../picture/measured.ts';
import type { Case, RenderInput } from '../family.ts';

/** Why a light gives nothing. */
export type Off = 'hidden' | 'at zero' | 'linked away';

export interface DarkCase extends Case {
  kind: 'dark';
  document: ShotDocument;
  /** The camera meets no object. */
  isEmpty: boolean;
  /** Nothing is to be seen; otherwise it is the background. */
  isBlack: boolean;
  /** Lights that give nothing by a control of theirs. */
  off: { id: string; name: string; why: Off }[];
  /** Lights and glowing materials that should shine. */
  on: string[];
}

/** Steps of 255 with shadows boosted below which nobody sees anything. */
const SEEN = 1;

export function darkCases(input: RenderInput): DarkCase[] {
  const { document, picture } = input;
  const isBlack = !luminancePlane(picture, 'beauty').some((y) => boostedDisplay(y) >= SEEN);
  const isEmpty = channel(picture, 'coverage').every((share) => share === 0);
  if (!isBlack && !isEmpty) return [];
  const lights = Object.entries(document.lights).map(([id, light]) => ({
    id,
    name: light.name || id,
    why: whyOff(light),
  }));
  const glowing = Object.entries(document.materials).filter(([, material]) => !isUnlit(material));
  const isSky = !isDark(document.environment);
  return [
    {
      key: 'lighting.dark',
      kind: 'dark',
      severity: isBlack ? 'stop' : 'caution',
      region: { x: 0, y: 0, width: picture.width, height: picture.height },
      mask: new Uint8Array(picture.width * picture.height).fill(1),
      passes: ['beauty', 'coverage'],
      document,
      isEmpty,
      isBlack,
      // What is switched off does not matter where nothing is to be lit.
      off: isEmpty ? [] : lights.flatMap(({ why, ...rest }) => (why ? [{ ...rest, why }] : [])),
      on: [...lights.filter(({ why }) => !why).map(({ name }) => name), ...glowing.map(([id, { name }]) => name || id), ...(isSky ? ['the environment'] : [])], // prettier-ignore
    },
  ];
}

function whyOff(light: LightSpec): Off | null {
  if (light.hidden) return 'hidden';
  if (isDark(light)) return 'at zero';
  const { mode, objects } = light.lights;
  return mode === 'only' && objects.length === 0 ? 'linked away' : null;
}

/** What puts a light that is off for one reason back. */
export function valuesFor({ document, off }: DarkCase, why: Off): ControlValues {
  const values: ControlValues = {};
  for (const { id, why: own } of off) {
    if (own !== why) continue;
    const { colour } = document.lights[id];
    if (why === 'hidden') values[`/lights/${id}/hidden`] = false;
    else if (why === 'linked away') values[`/lights/${id}/lights`] = { mode: 'all', objects: [] };
    else {
      values[`/lights/${id}/intensity`] = 1;
      if (colour.every((c) => c === 0)) values[`/lights/${id}/colour`] = [1, 1, 1];
    }
  }
  return values;
}
