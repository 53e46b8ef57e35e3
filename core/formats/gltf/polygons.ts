/**
 * DUSTING_polygons: what triangles do not tell of the mesh they were made from. On a primitive of triangles:
 *
 *     "DUSTING_polygons": {
 *       "faces": [4, 1200, 3, 2],            // 1200 faces of 4 corners, then 2 of 3
 *       "subdivision": "catmull-clark",      // or none, loop, bilinear
 *       "creases": [17, 18, 2.5],            // two vertices of the primitive and the sharpness of their edge, for each
 *       "corners": [17, 10]                  // a vertex and its sharpness, for each; may be left out
 *     }
 *
 * A face of n corners is n − 2 triangles that follow each other; its outline is what bounds them. Readers that do not
 * know the extension see the triangles. Described in `docs/shot-document.md`.
 */
import {
  Extension,
  ExtensionProperty,
  PropertyType,
  type ReaderContext,
  type WriterContext,
} from '@gltf-transform/core';
import type { IProperty, Nullable } from '@gltf-transform/core';
import type { PolygonData } from '../../data/mesh.ts';
import type { PolyMesh } from '../../data/poly-mesh.ts';

const NAME = 'DUSTING_polygons';

interface PolygonsAttributes extends IProperty, Required<PolygonData> {}

export class Polygons extends ExtensionProperty<PolygonsAttributes> {
  static override EXTENSION_NAME = NAME;
  declare extensionName: typeof NAME;
  declare propertyType: 'Polygons';
  declare parentTypes: [PropertyType.PRIMITIVE];

  protected init(): void {
    this.extensionName = NAME;
    this.propertyType = 'Polygons';
    this.parentTypes = [PropertyType.PRIMITIVE];
  }

  protected override getDefaults(): Nullable<PolygonsAttributes> {
    const data: Required<PolygonData> = { faces: [], subdivision: 'none', creases: [], corners: [] };
    return Object.assign(super.getDefaults() as IProperty, data);
  }

  getData(): PolygonData {
    const corners = this.get('corners');
    return {
      faces: this.get('faces'),
      subdivision: this.get('subdivision'),
      creases: this.get('creases'),
      ...(corners.length && { corners }),
    };
  }

  setData({ faces, subdivision, creases, corners = [] }: PolygonData): this {
    return this.set('faces', faces).set('subdivision', subdivision).set('creases', creases).set('corners', corners);
  }
}

export class PolygonsExtension extends Extension {
  static override EXTENSION_NAME = NAME;
  override extensionName = NAME;

  createPolygons(data: PolygonData): Polygons {
    return new Polygons(this.document.getGraph()).setData(data);
  }

  override read(context: ReaderContext): this {
    (context.jsonDoc.json.meshes ?? []).forEach((mesh, m) =>
      mesh.primitives.forEach((primitive, p) => {
        const data = primitive.extensions?.[NAME] as PolygonData | undefined;
        if (data) context.meshes[m].listPrimitives()[p].setExtension(NAME, this.createPolygons(data));
      }),
    );
    return this;
  }

  override write(context: WriterContext): this {
    const { json } = context.jsonDoc;
    for (const mesh of this.document.getRoot().listMeshes())
      mesh.listPrimitives().forEach((primitive, p) => {
        const polygons = primitive.getExtension<Polygons>(NAME);
        if (!polygons) return;
        const to = json.meshes![context.meshIndexMap.get(mesh)!].primitives[p];
        to.extensions = { ...to.extensions, [NAME]: polygons.getData() };
      });
    return this;
  }
}

/** Sizes of faces, run by run. */
export function runsOf(sizes: ArrayLike<number>): number[] {
  const runs: number[] = [];
  for (let i = 0; i < sizes.length; i++)
    if (runs.length && runs[runs.length - 2] === sizes[i]) runs[runs.length - 1] += 1;
    else runs.push(sizes[i], 1);
  return runs;
}

/**
 * What the triangles of `trianglesOf` do not tell of a mesh; null where they say it all.
 * @param pointOf point of each vertex
 * @param sizes corners of each face that made triangles, in order
 */
export function polygonData(
  { subdivision, creases, sharpPoints }: PolyMesh,
  pointOf: Uint32Array,
  sizes: number[],
): PolygonData | null {
  if (subdivision === 'none' && creases.sharpness.length === 0 && !sharpPoints && sizes.every((size) => size === 3))
    return null;
  const vertexOf = new Map<number, number>();
  pointOf.forEach((point, vertex) => vertexOf.has(point) || vertexOf.set(point, vertex));
  const flat: number[] = [];
  for (let i = 0; i < creases.sharpness.length; i++) {
    const [a, b] = [vertexOf.get(creases.edges[i * 2]), vertexOf.get(creases.edges[i * 2 + 1])];
    if (a !== undefined && b !== undefined) flat.push(a, b, creases.sharpness[i]);
  }
  const corners = [...(sharpPoints?.points ?? [])].flatMap((point, i) => {
    const vertex = vertexOf.get(point);
    return vertex === undefined ? [] : [vertex, sharpPoints!.sharpness[i]];
  });
  return { faces: runsOf(sizes), subdivision, creases: flat, ...(corners.length && { corners }) };
}
