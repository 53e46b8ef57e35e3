import { STOP, type Check } from '../check.ts';

export const pixelAspect: Check = {
  id: 'pixel-aspect',
  group: 'picture',
  title: 'Pixel aspect',
  why: 'Another pixel aspect squeezes the picture on display.',
  threshold: STOP,
  run({ source, profile, document }) {
    const aspect = source.settings.pixelAspect ?? (document ? document.cameras[document.camera].pixelAspect : null);
    if (aspect === null) return 'the scene states no pixel aspect';
    const wanted = profile.pixelAspect ?? aspect;
    const isRight = Math.abs(aspect - wanted) < 1e-6;
    return {
      expected: String(wanted),
      found: String(aspect),
      offenders: isRight ? [] : [{ object: source.file, detail: `pixels are ${aspect} as wide as high`, count: 1 }],
    };
  },
};
