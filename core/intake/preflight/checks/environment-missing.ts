import { CAUTION, type Check } from '../check.ts';

const EXPECTED = 'light from around';
const clear = (found: string) => ({ expected: EXPECTED, found, offenders: [] });

export const environmentMissing: Check = {
  id: 'environment-missing',
  group: 'light',
  title: 'Environment',
  why: 'Reflective surfaces mirror black where nothing surrounds the scene.',
  threshold: CAUTION,
  run(scene) {
    const { source } = scene;
    const { environment } = source;
    const lacks = environment?.image != null && !source.images[environment.image].bytes;
    if (environment !== null && environment.intensity > 0 && !lacks) return clear('there');
    // In a closed room that has light of its own nothing from around gets in.
    if (!lacks && scene.shines && scene.cameras.some((place) => scene.isInRoom(place)))
      return clear('none, and none gets into a closed room');
    const detail = lacks ? 'the image of the environment is missing' : 'nothing around the scene';
    return {
      expected: EXPECTED,
      found: lacks ? 'its image is not there' : 'none',
      offenders: [{ object: source.file, detail, count: 1 }],
    };
  },
};
