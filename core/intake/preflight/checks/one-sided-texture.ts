import { type Check } from '../check.ts';
import { count, objectFaults } from '../tell.ts';

export const oneSidedTexture: Check = {
  id: 'one-sided-texture',
  group: 'surface',
  title: 'Single-sided surfaces',
  why: 'They are invisible from behind; many renderers show the back black or not at all.',
  threshold: { caution: null, stop: null },
  run(scene) {
    const textured = new Set(scene.worn.flatMap(({ objects }) => objects.map(({ node }) => node.path)));
    const offenders = objectFaults(scene, ({ node, mesh }) =>
      node.facing !== 'both' && textured.has(node.path) && scene.topology(mesh).openEdges.length
        ? `open, textured and there from the ${node.facing} only`
        : null,
    );
    return { expected: 'none', found: count(offenders, 'object'), offenders };
  },
};
