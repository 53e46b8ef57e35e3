import { CAUTION, type Check } from '../check.ts';
import { metres } from '../tell.ts';

export const sceneUnits: Check = {
  id: 'scene-units',
  group: 'space',
  title: 'Units',
  why: 'In other units light falls off, glass tints and volumes thicken differently.',
  threshold: CAUTION,
  run({ source, profile }) {
    const unit = source.metresPerUnit;
    const wanted = profile.metresPerUnit;
    if (unit === null && source.format === 'OBJ') return 'OBJ files state no unit; metres are taken';
    const isRight = unit !== null && (wanted === null || Math.abs(unit / wanted - 1) < 1e-6);
    return {
      expected: wanted === null ? 'a stated unit' : `a unit of ${metres(wanted)}`,
      found: unit === null ? 'no stated unit; a centimetre is taken' : `a unit of ${metres(unit)}`,
      offenders: isRight
        ? []
        : [{ object: source.file, detail: unit === null ? 'states no unit' : `its unit is ${metres(unit)}`, count: 1 }],
    };
  },
};
