import { CAUTION, type Check } from '../check.ts';
import { metres } from '../tell.ts';

export const sceneScale: Check = {
  id: 'scene-scale',
  group: 'space',
  title: 'Scene size',
  why: 'A scene of millimetres or of hundreds of kilometres was probably built in other units.',
  threshold: CAUTION,
  run(scene) {
    const { min, max } = scene.bounds;
    if (min[0] > max[0]) return 'the scene holds no object with a place';
    const size = Math.max(...min.map((v, a) => max[a] - v));
    const isUsual = size >= 0.01 && size <= 20_000;
    return {
      expected: '1 cm to 20 km',
      found: metres(size),
      offenders: isUsual ? [] : [{ object: scene.source.file, detail: `${metres(size)} at its longest`, count: 1 }],
    };
  },
};
