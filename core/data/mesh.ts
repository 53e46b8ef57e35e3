/**
 * A triangle mesh in its own space, metres. Counter-clockwise triangles face the viewer.
 *
 * @example
 * const quad: Mesh = { positions: new Float32Array([0,0,0, 1,0,0, 1,1,0, 0,1,0]),
 *   normals: null, uvs: null, indices: new Uint32Array([0,1,2, 0,2,3]) };
 */
export interface Mesh {
  /** 3 values a vertex. */
  positions: Float32Array;
  /** 3 values a vertex, unit length, or null where faces are flat. */
  normals: Float32Array | null;
  /** 2 values a vertex, origin at the bottom left of the texture, or null. */
  uvs: Float32Array | null;
  /** The second set of UVs, where there is one. */
  uvs2?: Float32Array | null;
  /** 3 vertex numbers a triangle. */
  indices: Uint32Array;
  /** Where vertices stood before a map moved them, 3 values each; left out or null: nothing moved them. */
  before?: Float32Array | null;
  /** The polygons that it was cut from; left out or null: it was modelled as triangles. */
  polygons?: PolygonData | null;
}

/** What triangles do not tell of the polygons they were cut from. */
export interface PolygonData {
  /** Corners of faces and how many such faces follow, run by run. */
  faces: number[];
  subdivision: 'none' | 'catmull-clark' | 'loop' | 'bilinear';
  /** Two vertices and the sharpness of their edge, for each. */
  creases: number[];
  /** A vertex and its sharpness, for each; left out: none. */
  corners?: number[];
}

/**
 * Checks what every reader must guarantee. Throws a RangeError that names what and where.
 * @param where how the mesh is called in messages, for example `geometry/jars.glb mesh 2`
 */
export function checkMesh(mesh: Mesh, where: string): void {
  const vertices = mesh.positions.length / 3;
  if (mesh.indices.length === 0) throw new RangeError(`${where}: has no triangles`);
  if (mesh.indices.length % 3) throw new RangeError(`${where}: ${mesh.indices.length} indices are not whole triangles`);
  for (let i = 0; i < mesh.indices.length; i++) {
    if (mesh.indices[i] >= vertices)
      throw new RangeError(
        `${where}: index ${i} points at vertex ${mesh.indices[i]}, but there are only ${vertices} vertices`,
      );
  }
  for (let i = 0; i < mesh.positions.length; i++) {
    if (!Number.isFinite(mesh.positions[i]))
      throw new RangeError(`${where}: position of vertex ${Math.floor(i / 3)} is not finite`);
  }
}
