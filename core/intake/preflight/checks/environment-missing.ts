import { CAUTION, type Check } from '../check.ts';

export const environmentMissing: Check = {
  id: 'environment-missing',
  group: 'light',
  title: 'Environment',
  why: 'What is shiny mirrors black where nothing stands around the scene.',
  threshold: CAUTION,
  run({ source }) {
    const { environment } = source;
    const lacks = environment?.image != null && !source.images[environment.image].bytes;
    const isThere = environment !== null && environment.intensity > 0 && !lacks;
    return {
      expected: 'light from around',
      found: isThere ? 'there' : lacks ? 'its image is not there' : 'none',
      offenders: isThere
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
