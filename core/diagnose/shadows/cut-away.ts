/** One-sided walls that are left out on purpose, to look or to light in. */
import { channel } from '../../data/picture.ts';
import { objectNumber } from '../../document/object-names.ts';
import type { Place } from '../../place/surface-walk.ts';
import type { RenderInput } from '../family.ts';
import { meshShape } from '../mesh-shape.ts';

export class CutAway {
  /** Numbers of objects in the picture. */
  private readonly seen: ReadonlySet<number>;

  constructor(private readonly input: RenderInput) {
    this.seen = new Set(channel(input.picture, 'object'));
  }

  /**
   * Whether a one-sided object that lets light through to a place is meant to, or told otherwise: a part of what is lit itself, one
   * that nobody sees, and bodies that are closed or turned both ways, which are told with the normals.
   * @param object number in `scene.objectIds`
   */
  isMeant(object: number, place: Place): boolean {
    const { scene, document } = this.input;
    if (object === place.object || !this.seen.has(objectNumber(document, scene.objectIds[object]))) return true;
    const shape = meshShape(scene, object);
    return !shape || shape.isClosed || shape.mixedEdges > 0;
  }
}
