import { CAUTION, type Check } from '../check.ts';
import { setValues } from '../../repairs/offer.ts';
import { count, objectFaults } from '../tell.ts';

export const motionStatic: Check = {
  id: 'motion-static',
  group: 'time',
  title: 'Motion not rendered',
  why: 'An animated object marked static stands still in the render; of other scenes’ animation one moment is read.',
  threshold: CAUTION,
  run(scene) {
    const offenders = objectFaults(scene, ({ node }) => (node.moves ? 'has animation, and is rendered still' : null));
    const { document } = scene;
    const values: Record<string, unknown> = {};
    if (document)
      for (const [id, { motion, keys }] of Object.entries(document.objects))
        if (keys.length && motion === 'static') values[`/objects/${id}/motion`] = keys.some(({ mesh }) => mesh) ? 'deforming' : 'transform'; // prettier-ignore
    return {
      expected: 'animated objects move',
      found: count(offenders, 'object stands still', 'objects stand still'),
      offenders,
      repair: setValues('Turn its motion on', document, values),
    };
  },
};
