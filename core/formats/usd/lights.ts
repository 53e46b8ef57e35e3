/**
 * UsdLux lights in our units: its intensity is a radiance, ours is a radiant intensity for spheres and an
 * irradiance for distant lights. Source: OpenUSD, UsdLux, "Light quantities" of its overview.
 */
import { luminance } from '../../data/colour.ts';
import { defaultLight } from '../../document/defaults.ts';
import type { LightSpec } from '../../document/schema.ts';
import type { SceneReading } from '../scene-reading.ts';
import type { SourceLight, SourceLink } from '../source-scene.ts';
import { flagOf, numberOf, tripleOf } from './access.ts';
import type { UsdPrim } from './layer.ts';

export const USD_LIGHTS = new Set(['DistantLight', 'SphereLight', 'RectLight', 'DiskLight']);

/** `inputs:` came with a later edition of the schema. */
const input = (prim: UsdPrim, name: string) => (prim.attributes.has(`inputs:${name}`) ? `inputs:${name}` : name);
const one = (prim: UsdPrim, name: string, otherwise: number) => numberOf(prim, input(prim, name)) ?? otherwise;

/** @param scale metres of one unit of the light's own space */
export function usdLight(prim: UsdPrim, node: number, scale: number, reading: SceneReading): SourceLight {
  const spec = kindOf(prim, scale, reading);
  spec.name = prim.name;
  spec.colour = colourOf(prim);
  spec.castsShadows = flagOf(prim, input(prim, 'shadow:enable')) ?? true;
  spec.shadowColour = tripleOf(prim, input(prim, 'shadow:color')) ?? [0, 0, 0];
  const distance = one(prim, 'shadow:distance', -1);
  spec.shadowDistance = distance > 0 ? distance * scale : null;
  for (const name of ['diffuse', 'specular'] as const) {
    const factor = one(prim, name, 1);
    if (factor === 0) spec.visibility[name] = false;
    else if (factor !== 1) reading.notUnderstood(prim.where, `${name} multiplier ${factor} of light "${prim.name}"`);
  }
  for (const name of ['shaping:ies:file', 'shaping:focus', 'shadow:falloff'])
    if (prim.attributes.has(input(prim, name)) && one(prim, name, 1) > 0)
      reading.notUnderstood(prim.where, `"${name}" of light "${prim.name}"`);
  return { node, spec, links: { lights: linkOf(prim, 'lightLink'), shadowsOf: linkOf(prim, 'shadowLink') } };
}

export const exposedIntensity = (prim: UsdPrim): number =>
  one(prim, 'intensity', prim.type === 'DistantLight' ? 50000 : 1) * 2 ** one(prim, 'exposure', 0);

function kindOf(prim: UsdPrim, scale: number, reading: SceneReading): LightSpec {
  const radiance = exposedIntensity(prim);
  const normalised = flagOf(prim, input(prim, 'normalize')) ?? false;
  // Divided by the area in the scene's own units.
  const perArea = (area: number) => (normalised && area > 0 ? radiance / area : radiance);
  switch (prim.type) {
    case 'DistantLight': {
      const angle = one(prim, 'angle', 0.53);
      const size = angle > 0 ? Math.PI * Math.sin((Math.min(180, angle) * Math.PI) / 360) ** 2 : 1;
      return { ...defaultLight('distant'), angle, intensity: normalised ? radiance : radiance * size };
    }
    case 'RectLight': {
      const [width, height] = [one(prim, 'width', 1), one(prim, 'height', 1)];
      if (prim.attributes.has('inputs:texture:file'))
        reading.notUnderstood(prim.where, `texture of light "${prim.name}"`);
      return {
        ...defaultLight('rectangle'),
        width: width * scale,
        height: height * scale,
        intensity: perArea(width * height),
      };
    }
    case 'DiskLight': {
      const radius = one(prim, 'radius', 0.5);
      return { ...defaultLight('disc'), radius: radius * scale, intensity: perArea(Math.PI * radius ** 2) };
    }
    default: {
      const radius = one(prim, 'radius', 0.5);
      // A sphere's radiance over its disc as it is seen, in square metres.
      const seen = Math.PI * (radius * scale) ** 2;
      const isPoint = flagOf(prim, 'treatAsPoint') ?? false;
      const shared = {
        radius: isPoint ? 0 : radius * scale,
        intensity: perArea(4 * Math.PI * radius ** 2) * seen,
      };
      const cone = one(prim, 'shaping:cone:angle', 180);
      if (cone >= 90) return { ...defaultLight('point'), ...shared };
      return {
        ...defaultLight('spot'),
        ...shared,
        cone: Math.max(0.1, cone * 2),
        softness: Math.min(1, Math.max(0, one(prim, 'shaping:cone:softness', 0))),
      };
    }
  }
}

export function colourOf(prim: UsdPrim): number[] {
  const colour = tripleOf(prim, input(prim, 'color')) ?? [1, 1, 1];
  if (!flagOf(prim, input(prim, 'enableColorTemperature'))) return colour;
  const white = blackBody(one(prim, 'colorTemperature', 6500));
  return colour.map((v, c) => v * white[c]);
}

/**
 * Colour of a black body, linear Rec.709 of luminance 1. Source: Kim et al., US patent 7024034 (2006), cubic
 * spline of the Planckian locus, 1667 to 25000 K.
 */
function blackBody(kelvin: number): number[] {
  const t = 1000 / Math.min(25000, Math.max(1667, kelvin));
  const x =
    kelvin <= 4000
      ? -0.2661239 * t ** 3 - 0.234358 * t ** 2 + 0.8776956 * t + 0.17991
      : -3.0258469 * t ** 3 + 2.1070379 * t ** 2 + 0.2226347 * t + 0.24039;
  const y =
    kelvin <= 2222
      ? -1.1063814 * x ** 3 - 1.3481102 * x ** 2 + 2.18555832 * x - 0.20219683
      : kelvin <= 4000
        ? -0.9549476 * x ** 3 - 1.37418593 * x ** 2 + 2.09137015 * x - 0.16748867
        : 3.081758 * x ** 3 - 5.8733867 * x ** 2 + 3.75112997 * x - 0.37001483;
  const [X, Z] = [x / y, (1 - x - y) / y];
  // XYZ to linear Rec.709 (ITU-R BT.709, D65).
  const rgb = [
    3.2404542 * X - 1.5371385 - 0.4985314 * Z,
    -0.969266 * X + 1.8760108 + 0.041556 * Z,
    0.0556434 * X - 0.2040259 + 1.0572252 * Z,
  ].map((v) => Math.max(0, v));
  const bright = luminance(rgb[0], rgb[1], rgb[2]);
  return rgb.map((v) => v / bright);
}

/** A collection of the light; objects below a path that is included are in it. */
function linkOf(prim: UsdPrim, name: string): SourceLink {
  const includes = prim.relationships.get(`collection:${name}:includes`)?.targets ?? [];
  const excludes = prim.relationships.get(`collection:${name}:excludes`)?.targets ?? [];
  const fromRoot = flagOf(prim, `collection:${name}:includeRoot`) ?? true;
  if (!fromRoot) return { mode: 'only', paths: includes };
  return excludes.length ? { mode: 'except', paths: excludes } : { mode: 'all', paths: [] };
}
