/**
 * An environment image whose texels are seen in mirrors. A flat mirror turns the view without widening it, so that a texel of
 * the environment is seen as wide as it is. A lobe as wide as a texel takes its edges away. Source of its width: Walter et al.
 * 2007, equation 33.
 */
import type { Case, RenderInput } from '../family.ts';
import { mirrorsOf } from '../mirrors.ts';
import { maskOf, regionOf } from '../regions.ts';

export interface CoarseCase extends Case {
  kind: 'coarse';
  objects: string[];
  /** Texels around; degrees of a texel and of a pixel. */
  texels: number;
  texel: number;
  pixel: number;
  /** The roughness as wide as a texel, and materials that are sharper, by key. */
  roughness: number;
  materials: string[];
}

/** Pixels that a texel is wide before it is seen. */
const WIDE = 2;

export function coarseCases(input: RenderInput): CoarseCase[] {
  const { document, picture, scene, sheet } = input;
  const image = scene.chains[scene.sky.texture]?.[0];
  if (document.environment.kind !== 'image' || !image) return [];
  const texel = 360 / image.width;
  const pixel = document.cameras[document.camera].fieldOfView / sheet.height;
  const mirrors = texel < WIDE * pixel ? [] : mirrorsOf(input);
  if (mirrors.length === 0) return [];
  const mask = maskOf(
    picture,
    mirrors.flatMap(({ pixels }) => pixels),
  );
  const roughness = +roughnessAsWideAs((texel * Math.PI) / 180).toFixed(2);
  const materials = new Set(mirrors.map(({ id }) => document.objects[id].material));
  return [
    {
      key: 'lighting.environment-coarse',
      kind: 'coarse',
      severity: 'note',
      region: regionOf(picture, mask),
      mask,
      passes: ['specular.direct'],
      objects: mirrors.map(({ id }) => document.objects[id].name || id),
      texels: image.width,
      texel,
      pixel,
      roughness,
      materials: [...materials].filter((id) => document.materials[id].roughness < roughness),
    },
  ];
}

/**
 * The roughness whose lobe is as wide as an angle. A GGX distribution falls to half at tan²θ = α² (√2 − 1), a mirrored
 * direction turns by twice the angle of its normal, and to both sides; α is roughness squared.
 * @param angle radians
 */
function roughnessAsWideAs(angle: number): number {
  return Math.sqrt(Math.tan(angle / 4) / Math.sqrt(Math.SQRT2 - 1));
}
