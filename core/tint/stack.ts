/**
 * What gets through a stack of glass that is looked through straight on, channel by channel: the filter of each face, absorption
 * on the way through each body, and everything that goes back and forth between faces.
 *
 * Layers are put together by the adding method for plane-parallel layers, T = T₁T₂/(1 − R₁R₂) and R = R₁ + T₁²R₂/(1 − R₁R₂)
 * (Stokes, "On the Intensity of the Light Reflected from or Transmitted through a Pile of Plates", 1862). The renderer's own
 * rules hold: a face filters what crosses it by the base colour and leaves what it mirrors untinted; a thin wall filters once.
 *
 * @example
 * throughStack(glassOf(material, false), { bodies: 2, metres: 0.004 }); // [0.79, 0.84, 0.81]
 */
import { absorption } from '../materials/absorption.ts';
import { fresnelDielectric } from '../materials/fresnel.ts';
import type { MaterialSpec } from '../document/schema.ts';

export type Rgb = [number, number, number];

export interface Glass {
  /** Linear Rec.709: what a face lets through of what crosses it. */
  filter: Rgb;
  /** 1/m. */
  absorption: Rgb;
  ior: number;
  /** Each face is a wall of its own; otherwise two of them hold a body between them. */
  isThin: boolean;
  /** Metres of a thin wall, whatever its mesh. */
  thickness: number;
}

export interface Stack {
  /** Bodies, or thin walls, that are looked through one behind the other; whole, 0 or more. */
  bodies: number;
  /** Metres straight through each body; thin walls have a thickness of their own. */
  metres: number;
}

interface Layer {
  reflected: number;
  through: number;
}

type Of = Pick<
  MaterialSpec,
  'baseColour' | 'attenuationColour' | 'attenuationDistance' | 'ior' | 'thickness' | 'transmission'
>;

export const glassOf = (material: Of, isThin: boolean): Glass => ({
  filter: [...material.baseColour] as Rgb,
  absorption: material.attenuationColour.map((c) => absorption(c, material.attenuationDistance)) as Rgb,
  ior: material.ior,
  isThin,
  thickness: material.thickness,
});

/** Share of the light that gets through, per channel, 0–1. @throws RangeError for an index of 0 or less, or a stack that is none */
export function throughStack(glass: Glass, { bodies, metres }: Stack): Rgb {
  if (!(glass.ior > 0)) throw new RangeError(`an index of refraction of ${glass.ior}: it must be above 0`);
  if (!(Number.isInteger(bodies) && bodies >= 0)) throw new RangeError(`a stack of ${bodies} bodies`);
  if (!(metres >= 0)) throw new RangeError(`a way of ${metres} m through glass`);
  return [0, 1, 2].map((c) => stackOf(bodyOf(glass, c, metres), bodies).through) as Rgb;
}

function bodyOf({ filter, absorption: sigma, ior, isThin, thickness }: Glass, c: number, metres: number): Layer {
  const mirrored = fresnelDielectric(1, ior);
  if (isThin) {
    const both = (2 * mirrored) / (1 + mirrored);
    return { reflected: both, through: (1 - both) * filter[c] * Math.exp(-sigma[c] * thickness) };
  }
  const face: Layer = { reflected: mirrored, through: (1 - mirrored) * filter[c] };
  const inside: Layer = { reflected: 0, through: Math.exp(-sigma[c] * metres) };
  return [inside, face].reduce(add, face);
}

/** By doubling: a thousand bodies are ten steps. */
function stackOf(body: Layer, count: number): Layer {
  let [all, power] = [{ reflected: 0, through: 1 }, body];
  for (let left = count; left > 0; left >>= 1) {
    if (left & 1) all = add(all, power);
    power = add(power, power);
  }
  return all;
}

function add(a: Layer, b: Layer): Layer {
  const round = 1 - a.reflected * b.reflected;
  return {
    through: (a.through * b.through) / round,
    reflected: a.reflected + (a.through * a.through * b.reflected) / round,
  };
}

/** Parts of a colour that nothing gets through of, in a stack: fewer than one display step. */
const NOTHING = 1 / 255 / 12.92;
export const swallowed = (through: Rgb): number[] => [0, 1, 2].filter((c) => through[c] < NOTHING);
