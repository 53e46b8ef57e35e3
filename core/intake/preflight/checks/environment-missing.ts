import type { SourceScene } from '../../../formats/source-scene.ts';
import { CAUTION, type Check } from '../check.ts';

const isLit = ({ lights, materials }: SourceScene): boolean =>
  lights.some(({ spec }) => spec.intensity > 0 && !spec.hidden) ||
  materials.some(({ spec }) => spec.emissionStrength > 0 && Math.max(...spec.emission) > 0);

export const environmentMissing: Check = {
  id: 'environment-missing',
  group: 'light',
  title: 'Environment',
  why: 'What is shiny mirrors black where nothing stands around the scene.',
  threshold: CAUTION,
  run(scene) {
    const { source } = scene;
    const { environment } = source;
    const lacks = environment?.image != null && !source.images[environment.image].bytes;
    const isThere = environment !== null && environment.intensity > 0 && !lacks;
    // In a closed room that has light of its own nothing from around gets in.
    const isRoom = !isThere && !lacks && isLit(source) && scene.cameras.some((place) => scene.isInRoom(place));
    return {
      expected: 'light from around',
      found: isRoom
        ? 'none, and none gets into a closed room'
        : isThere
          ? 'there'
          : lacks
            ? 'its image is not there'
            : 'none',
      offenders:
        isThere || isRoom
          ? []
          : [
              {
                object: source.file,
                detail: lacks ? 'the image of the environment is missing' : 'nothing around the scene',
                count: 1,
              },
            ],
    };
  },
};
