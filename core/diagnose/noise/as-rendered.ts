/** The figures of a region as it was rendered: what a change of samples leaves as it is, and what it is reckoned from. */
import type { FigureValue } from '../../contracts/figures.ts';
import type { Region } from '../../data/picture.ts';
import { compareSides } from '../../figures/compare.ts';
import { figurePasses } from '../../figures/registry.ts';
import { cropPlane } from '../../picture/measured.ts';
import { sceneFigures } from '../../predict/scene-figures.ts';
import { decidingSamples } from '../../render/frame/adaptive.ts';
import { passChannels } from '../../render/film/pass-list.ts';
import type { RenderInput } from '../family.ts';

export function asRendered({ picture, scene, sheet }: RenderInput, region: Region): FigureValue[] {
  const names = figurePasses(scene.layout).flatMap((pass) => passChannels(pass, scene.layout));
  const channels = new Map(
    names.flatMap((name) => {
      const plane = picture.channels.get(name);
      return plane ? [[name, cropPlane(picture, plane, region)] as const] : [];
    }),
  );
  const side = {
    picture: { ...region, channels },
    deciding: decidingSamples(sheet),
    occlusionRays: sheet.extraSamples.occlusion,
    seconds: null,
    ofScene: sceneFigures(scene, sheet),
  };
  return compareSides({ before: side, after: side, mask: null, names: [] }).figures;
}

/** The same with some other samples. @param to noise before and after, display steps, and the factor on the rays */
export function withSamples(
  figures: FigureValue[],
  to: { noise: [number, number]; brightNoise: [number, number]; rays: number },
): FigureValue[] {
  const noiseOf: Record<string, [number, number]> = { noise: to.noise, 'bright-noise': to.brightNoise };
  const out = figures.map((value): FigureValue => {
    if (value.id === 'fireflies') return { ...value, after: null, why: 'how many are found by chance is not known' };
    if (value.before === null) return value;
    if (value.id === 'rays') return { ...value, after: value.before * to.rays };
    const [before, after] = noiseOf[value.id] ?? [value.before, value.after];
    return { ...value, before, after };
  });
  return [...out, { id: 'time', before: null, after: null, why: 'as the rays' }];
}
