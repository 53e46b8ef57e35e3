/** The pole of an environment image that is pinched to a star, followed from the pixels that show it: straight, through glass, in mirrors. */
import { objectNames } from '../../document/object-names.ts';
import { SkyWalk } from '../../place/sky-walk.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { Assets } from '../../render/compile/assets.ts';
import { poleFaults, withEvenPoles, type PoleFault } from '../../textures/poles.ts';
import type { Case, RenderInput } from '../family.ts';
import { maskOf, regionOf } from '../regions.ts';

export interface PoleCase extends Case, PoleFault {
  kind: 'pole';
  file: string;
  texture: string;
  /** Degrees about the pole that repeat one row. */
  degrees: number;
  /** What shows it besides the background; empty: it is seen straight alone. */
  shownBy: string[];
  /** Rows that run into one colour once it is mended, and the textures then. */
  mended: number;
  files: Assets;
}

/** Pixels across that are looked at, and those of them that must show it. */
const ACROSS = 400;
const LEAST = 12;
/** Degrees about a pole within which a star is seen though no row repeats, and rows that are mended at least. */
const STAR = 4;
const MENDED = 8;

export function poleCases({ document, scene, sheet, picture, assets }: RenderInput): PoleCase[] {
  const { environment } = document;
  const image = scene.chains[scene.sky.texture]?.[0];
  if (environment.kind !== 'image' || environment.texture === null || environment.intensity === 0 || !image) return [];
  const texture = environment.texture;
  const faults = poleFaults(image);
  if (faults.length === 0) return [];
  const walk = new SkyWalk(scene, document, settingsOf(sheet));
  const names = objectNames(document);
  const step = Math.max(1, Math.round(picture.width / ACROSS));
  return faults.flatMap((fault): PoleCase[] => {
    const degrees = (fault.rows * 180) / image.height;
    const within = Math.cos((Math.max(degrees, STAR) / 180) * Math.PI);
    const up = fault.pole === 'top' ? 1 : -1;
    const pixels: number[] = [];
    const shown = new Set<number>();
    for (let y = 0; y < picture.height; y += step)
      for (let x = 0; x < picture.width; x += step) {
        const sky = walk.skyAt(x, y);
        if (!sky || up * sky.direction[1] < within) continue;
        pixels.push(y * picture.width + x);
        for (const object of sky.by) shown.add(object);
      }
    if (pixels.length < LEAST) return [];
    const mask = maskOf(picture, pixels);
    const mended = Math.min(Math.floor(image.height / 4), Math.max(2 * fault.rows, MENDED));
    const textures = new Map(assets.textures).set(texture, withEvenPoles(image, { [fault.pole]: mended }));
    return [
      {
        key: `lighting.environment-pole ${fault.pole}`,
        kind: 'pole',
        severity: 'caution',
        region: regionOf(picture, mask),
        mask,
        passes: ['background', 'specular.direct', 'transmission.direct'],
        ...fault,
        file: document.textures[texture].file,
        texture,
        degrees,
        shownBy: [...shown].map((object) => names[object]),
        mended,
        files: { ...assets, textures },
      },
    ];
  });
}
