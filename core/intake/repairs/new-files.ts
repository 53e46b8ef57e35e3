/** Files that repairs read and make. */
import { emptyPolyMesh, trianglesOf, type PolyMesh } from '../../data/poly-mesh.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { readGlb, writeGlb, type GlbFile } from '../../formats/gltf.ts';
import { meshPolygons } from '../../data/mesh-polygons.ts';
import { polygonData } from '../../formats/gltf/polygons.ts';
import type { ReadFile } from '../../render/compile/load-assets.ts';

export class NewFiles {
  readonly made = new Map<string, Uint8Array>();
  private readonly glbs = new Map<string, Promise<GlbFile>>();

  constructor(
    private readonly document: ShotDocument,
    readonly read: ReadFile,
  ) {}

  /** Polygons of a mesh of the document. */
  async mesh(id: string): Promise<PolyMesh> {
    const { file, mesh, primitive } = this.document.meshes[id];
    let glb = this.glbs.get(file);
    if (!glb) {
      const open = async () => {
        const bytes = await this.read(file);
        if (!bytes) throw new RangeError(`${file}, the file of mesh "${id}", is not there`);
        return readGlb(bytes, file);
      };
      this.glbs.set(file, (glb = open()));
    }
    const found = await glb;
    return meshPolygons(found.mesh(mesh, primitive), found.polygons(mesh, primitive), `${file} mesh ${mesh}`);
  }

  /** Writes meshes into one file, in order. @returns its path */
  async writeMeshes(name: string, meshes: { name: string; poly: PolyMesh }[]): Promise<string> {
    const parts = meshes.map(({ name: called, poly }) => {
      const mesh = trianglesOf(poly);
      const sizes = [...poly.faceSizes].filter((size) => size > 2);
      return { name: called, mesh, polygons: polygonData(poly, mesh.pointOf, sizes) };
    });
    return this.add(`geometry/${name}`, '.glb', await writeGlb(parts));
  }

  /** Under a path that no file has yet. */
  async add(stem: string, ending: string, bytes: Uint8Array): Promise<string> {
    return this.addAll(stem, ending, (path) => new Map([[path, bytes]]));
  }

  /** Several files that one path stands for. @param all gives them by their own paths @returns the path */
  async addAll(stem: string, ending: string, all: (path: string) => Map<string, Uint8Array>): Promise<string> {
    for (let n = 1; ; n++) {
      const path = n === 1 ? `${stem}${ending}` : `${stem}-${n}${ending}`;
      const files = all(path);
      const isTaken = await Promise.all([...files.keys()].map(async (one) => this.made.has(one) || (await this.read(one)) !== null)); // prettier-ignore
      if (isTaken.includes(true)) continue;
      files.forEach((bytes, one) => this.made.set(one, bytes));
      return path;
    }
  }
}

/** A level square around the origin, its UVs in metres. */
export function square(side: number): PolyMesh {
  const h = side / 2;
  const points = [-h, 0, h, h, 0, h, h, 0, -h, -h, 0, -h];
  const corners = Uint32Array.of(0, 1, 2, 3);
  return {
    ...emptyPolyMesh(),
    points: Float32Array.from(points),
    faceSizes: Uint32Array.of(4),
    corners,
    uvs: [{ name: 'metres', values: Float32Array.of(-h, -h, h, -h, h, h, -h, h), indices: corners.slice() }],
  };
}
