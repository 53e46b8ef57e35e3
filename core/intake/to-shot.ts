/**
 * A scene that was read becomes a shot of ours: its document, and the files the document refers to. What has no
 * place in a shot is told, never dropped in silence.
 */
import { determinant, lookAt, type Transform } from '../data/transform.ts';
import { trianglesOf, type PolyMesh } from '../data/poly-mesh.ts';
import { checkMesh, type PolygonData } from '../data/mesh.ts';
import {
  defaultCamera,
  defaultEnvironment,
  defaultMaterial,
  defaultObject,
  defaultSheet,
} from '../document/defaults.ts';
import type { CameraSpec, LightSpec, LinkSpec, ObjectSpec, Sheet, ShotDocument } from '../document/schema.ts';
import { validateDocument } from '../document/validate.ts';
import { writeGlb } from '../formats/gltf.ts';
import { polygonData } from '../formats/gltf/polygons.ts';
import { fileName } from '../formats/paths.ts';
import {
  plainTexture,
  type Remark,
  type SourceLens,
  type SourceLink,
  type SourceScene,
} from '../formats/source-scene.ts';
import { subdivisionCost } from '../subdivision/subdivide.ts';
import { FreeIds } from './ids.ts';
import { ShotSurfaces } from './shot-surfaces.ts';

export interface MadeShot {
  document: ShotDocument;
  files: Map<string, Uint8Array>;
  notUnderstood: Remark[];
  /** Of what the shot holds. */
  counts: {
    objects: number;
    meshes: number;
    triangles: number;
    polygons: number;
    materials: number;
    textures: number;
    lights: number;
    cameras: number;
  };
}

const GEOMETRY = 'geometry/scene.glb';
/** Levels that a subdivided mesh comes in with, and the most faces that they may make of it: more are asked for by hand. */
const LEVELS = 2;
const FACES_MOST = 2 ** 21;

function subdivisionOf(poly: PolyMesh): ObjectSpec['subdivision'] {
  const { subdivision: usual } = defaultObject();
  const ends = poly.ends ?? usual;
  if (poly.subdivision === 'none' || poly.subdivision === 'loop') return { ...usual, ...poly.ends };
  let level = LEVELS;
  while (level > 0 && subdivisionCost(poly, level).faces > FACES_MOST) level -= 1;
  return { ...usual, level, boundary: ends.boundary, uvs: ends.uvs };
}

const OBJECTS_MOST = 200_000;

/** @throws RangeError or InvalidInput when no shot can be made of it */
export async function toShot(scene: SourceScene, size: { width?: number; height?: number } = {}): Promise<MadeShot> {
  return new ShotMaking(scene).make(size);
}

class ShotMaking {
  private readonly notUnderstood: Remark[];
  private readonly files = new Map<string, Uint8Array>();
  private readonly document: ShotDocument;
  /** By what meshes are parts of: its number in the file, and how many parts it has there. */
  private readonly written = new Map<string, { mesh: number; parts: number }>();
  private readonly meshes: {
    name: string;
    mesh: ReturnType<typeof trianglesOf>;
    polygons: PolygonData | null;
    faces: number;
    partOf: string;
  }[] = [];
  private readonly meshIds = new Map<string, string | null>();
  private readonly ids = new FreeIds();
  private readonly surfaces: ShotSurfaces;
  private readonly objectIds: { path: string; id: string }[] = [];

  constructor(private readonly scene: SourceScene) {
    const lost = scene.references.filter(({ kind, resolved }) => kind !== 'image' && resolved === null);
    this.notUnderstood = [
      ...lost.map(({ kind, path, neededBy }) => ({ where: neededBy, what: `${kind} "${path}" is not there` })),
      ...scene.notUnderstood,
    ];
    const { settings } = scene;
    this.document = {
      schema: 'dusting.shot/1',
      code: codeOf(scene.file),
      name: fileName(scene.file).slice(0, 200),
      frame: Math.round(settings.firstFrame ?? 1),
      camera: '',
      cameras: {},
      meshes: {},
      textures: {},
      maps: {},
      coats: {},
      groups: {},
      materials: {},
      objects: {},
      lights: {},
      environment: defaultEnvironment(),
      background: null,
      fog: null,
      previewShadows: null,
      sheets: { preview: defaultSheet(), final: defaultSheet() },
    };
    this.surfaces = new ShotSurfaces(scene, this.document, this.files, this.notUnderstood, this.ids);
  }

  async make(size: { width?: number; height?: number }): Promise<MadeShot> {
    const materials = this.scene.materials.map((_, i) => this.surfaces.material(i));
    this.objects(materials);
    if (this.meshes.length === 0 && Object.keys(this.document.objects).length === 0)
      throw new RangeError(`${this.scene.file}: holds no surface that can be rendered`);
    this.lights();
    this.environment();
    this.cameras();
    for (const sheet of Object.values(this.document.sheets)) this.size(sheet, size);
    this.files.set(GEOMETRY, await writeGlb(this.meshes));
    const document = validateDocument(this.document, this.scene.file);
    const count = (map: object) => Object.keys(map).length;
    return {
      document,
      files: this.files,
      notUnderstood: this.notUnderstood,
      counts: {
        objects: count(document.objects),
        meshes: this.meshes.length,
        triangles: this.meshes.reduce((sum, { mesh }) => sum + mesh.indices.length / 3, 0),
        polygons: this.meshes.reduce((sum, { faces }) => sum + faces, 0),
        materials: count(document.materials),
        textures: count(document.textures),
        lights: count(document.lights),
        cameras: count(document.cameras),
      },
    };
  }

  /** As the file says, or as the camera sees; what the caller wants comes first. */
  private size(sheet: Sheet, { width, height }: { width?: number; height?: number }): void {
    const { settings, cameras } = this.scene;
    const { name } = this.document.cameras[this.document.camera];
    const seen = cameras.find((camera) => camera.name === name)?.aspect ?? 16 / 9;
    const isStated = settings.width !== null && settings.height !== null;
    const aspect = isStated ? settings.width! / settings.height! : seen;
    sheet.height = height ?? (width ? Math.max(1, Math.round(width / aspect)) : isStated ? settings.height! : 540);
    sheet.width = width ?? (isStated && !height ? settings.width! : Math.max(1, Math.round(sheet.height * aspect)));
  }

  private objects(materials: string[]): void {
    const { document, scene } = this;
    let plain: string | null = null;
    for (const [n, node] of scene.nodes.entries()) {
      if (node.mesh < 0) continue;
      if (Math.abs(determinant(node.world)) === 0 || !node.world.every((v) => Math.abs(v) < 1e9)) {
        this.notUnderstood.push({
          where: node.where,
          what: `"${node.name}" is left out: its transform flattens it or is no place`,
        });
        continue;
      }
      for (const [p, part] of node.parts.entries()) {
        const mesh = this.mesh(node.mesh, p, part.faces);
        if (mesh === null) continue;
        if (part.material < 0 && plain === null) {
          plain = this.ids.of(document.materials, 'plain');
          document.materials[plain] = { ...defaultMaterial(), name: 'plain' };
        }
        const material = part.material < 0 ? plain! : materials[part.material];
        const id = this.ids.of(document.objects, node.parts.length > 1 ? `${node.name}-${p}` : node.name);
        if (this.objectIds.push({ path: node.path, id }) > OBJECTS_MOST)
          throw new RangeError(`${scene.file}: has more than ${OBJECTS_MOST.toLocaleString('en')} objects`);
        document.objects[id] = {
          ...defaultObject(),
          name: node.name.slice(0, 200),
          mesh,
          material,
          transform: clean(node.world),
          hidden: !node.visible,
          thin: part.material >= 0 && scene.materials[part.material].thin,
          subdivision: subdivisionOf(scene.meshes[node.mesh].poly),
        };
      }
      if (node.live.length)
        this.notUnderstood.push({
          where: scene.nodes[n].where,
          what: `"${node.name}": ${node.live.join(', ')} not carried out`,
        });
    }
  }

  /** Where the next part of a mesh of the scene stands in the file: parts of one stay parts of one. */
  private placeOf(partOf: string): { mesh: number; primitive: number } {
    const own = this.written.get(partOf);
    if (own) return { mesh: own.mesh, primitive: own.parts++ };
    this.written.set(partOf, { mesh: this.written.size, parts: 1 });
    return { mesh: this.written.size - 1, primitive: 0 };
  }

  /** Id of the mesh of some faces; null when they make no triangle. */
  private mesh(number: number, part: number, faces: Uint32Array | null): string | null {
    const { name, where, poly } = this.scene.meshes[number];
    const key = `${number} ${faces ? part : ''}`;
    const known = this.meshIds.get(key);
    if (known !== undefined) return known;
    const mesh = trianglesOf(poly, faces);
    // One that is used whole as well is no part of itself.
    const partOf = faces ? `parts of ${number}` : `whole ${number}`;
    let id: string | null = null;
    if (mesh.indices.length === 0)
      this.notUnderstood.push({ where, what: `mesh "${name}" has no face of three corners` });
    else {
      checkMesh(mesh, `${where} "${name}"`);
      if (poly.uvs.length > 2)
        this.notUnderstood.push({
          where,
          what: `UV sets of "${name}" after the second: ${poly.uvs
            .slice(2)
            .map((uv) => uv.name)
            .join(', ')}`,
        });
      id = this.ids.of(this.document.meshes, faces ? `${name}-${part}` : name);
      this.document.meshes[id] = { file: GEOMETRY, ...this.placeOf(partOf) };
      const sizes = Array.from(faces ?? poly.faceSizes.keys(), (face) => poly.faceSizes[face]).filter((n) => n > 2);
      this.meshes.push({
        name: id,
        mesh,
        polygons: polygonData(poly, mesh.pointOf, sizes),
        faces: sizes.length,
        partOf,
      });
    }
    this.meshIds.set(key, id);
    return id;
  }

  private lights(): void {
    const { document, scene } = this;
    for (const { node, spec, links } of scene.lights) {
      const id = this.ids.of(document.lights, spec.name || spec.kind);
      const transform = rigid(node < 0 ? null : scene.nodes[node].world);
      document.lights[id] = {
        ...spec,
        name: spec.name || id,
        transform,
        hidden: spec.hidden || (node >= 0 && !scene.nodes[node].visible),
        lights: this.link(links.lights),
        shadowsOf: this.link(links.shadowsOf),
      } as LightSpec;
    }
  }

  private link({ mode, paths }: SourceLink): LinkSpec {
    const inside = (path: string) => paths.some((of) => path === of || path.startsWith(`${of}/`));
    return {
      mode,
      objects: mode === 'all' ? [] : this.objectIds.filter(({ path }) => inside(path)).map(({ id }) => id),
    };
  }

  private environment(): void {
    const { environment } = this.scene;
    if (!environment) return;
    const { document } = this;
    Object.assign(document.environment, {
      colour: environment.colour,
      intensity: environment.intensity,
      rotation: turn(environment.rotation),
    });
    document.environment.stops = [{ at: 0, colour: [1, 1, 1] }];
    if (environment.image === null) return;
    const texture = this.surfaces.texture(plainTexture('emission', environment.image));
    if (texture) Object.assign(document.environment, { kind: 'image', texture });
  }

  private cameras(): void {
    const { document, scene } = this;
    for (const { name, node, fieldOfView, near, far, lens } of scene.cameras) {
      if (!(fieldOfView > 0 && fieldOfView < 180)) {
        const what =
          fieldOfView === 0 ? 'has a parallel projection' : `has an angle of view of ${fieldOfView.toFixed(2)}°`;
        this.notUnderstood.push({ where: scene.nodes[node]?.where ?? scene.file, what: `camera "${name}" ${what}` });
        continue;
      }
      const id = this.ids.of(document.cameras, name);
      document.cameras[id] = {
        ...defaultCamera(),
        name: name.slice(0, 200),
        fieldOfView,
        transform: rigid(node < 0 ? null : scene.nodes[node].world),
        ...planesOf(near, far),
        ...lensOf(lens),
      };
      if (scene.settings.camera && scene.settings.camera.endsWith(`/${name}`)) document.camera = id;
    }
    document.camera ||= Object.keys(document.cameras)[0] ?? '';
    if (document.camera) return;
    document.camera = 'all';
    document.cameras.all = this.cameraOnAll();
    this.notUnderstood.push({
      where: scene.file,
      what: 'no camera to look through; one that sees everything was added',
    });
  }

  /** From a little above the front, as far off as the whole needs. */
  private cameraOnAll(): ShotDocument['cameras'][string] {
    const min = [Infinity, Infinity, Infinity];
    const max = [-Infinity, -Infinity, -Infinity];
    const { meshes, nodes } = this.scene;
    for (const { mesh, world } of nodes) {
      if (mesh < 0 || !world.every(Number.isFinite)) continue;
      const { points } = meshes[mesh].poly;
      for (let i = 0; i < points.length; i += 3)
        for (let a = 0; a < 3; a++) {
          const value =
            world[a] * points[i] + world[4 + a] * points[i + 1] + world[8 + a] * points[i + 2] + world[12 + a];
          min[a] = Math.min(min[a], value);
          max[a] = Math.max(max[a], value);
        }
    }
    const middle = min.map((v, a) => (v + max[a]) / 2);
    const radius = Math.max(1e-6, Math.hypot(...min.map((v, a) => (max[a] - v) / 2)));
    const fieldOfView = 40;
    const away = radius / Math.sin((fieldOfView * Math.PI) / 360);
    const from = [middle[0], middle[1] + away * 0.3, middle[2] + away * 0.95];
    return { ...defaultCamera(), name: 'all', fieldOfView, transform: lookAt(from, middle) };
  }
}

/** What a camera sees between; planes that make no sense are left to preflight to tell of and do not clip. */
function planesOf(near: number | null, far: number | null): Partial<CameraSpec> {
  const [from, to] = [Math.max(0, near ?? 0), far ?? Infinity];
  return from < to ? { near: Math.min(1e9, from), far: to < 1e9 && to > 1e-6 ? to : null } : {};
}

function lensOf(lens: SourceLens | null): Partial<CameraSpec> {
  if (!lens) return {};
  const within = (value: number, least: number, most: number) => Math.min(most, Math.max(least, value));
  return {
    sensorHeight: within(lens.sensorHeight, 0.1, 1000),
    fStop: lens.fStop === null || lens.focusDistance === null ? null : within(lens.fStop, 0.1, 1000),
    ...(lens.focusDistance === null ? {} : { focusDistance: within(lens.focusDistance, 1e-4, 1e9) }),
  };
}

function codeOf(file: string): string {
  const base = fileName(file).replace(/\.[^.]*$/, '');
  return (
    base
      .replaceAll(/[^A-Za-z0-9_-]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 40) || 'scene'
  );
}

/** The last row is written out, whatever rounding left there. */
const clean = (m: Transform): Transform => m.map((v, i) => (i % 4 === 3 ? (i === 15 ? 1 : 0) : v));
const turn = (degrees: number): number => degrees % 360;

/** Without scale: what shines and what looks has its size in its own figures. */
function rigid(m: Transform | null): Transform {
  if (!m) return [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  return clean(
    m.map((v, i) => {
      if (i >= 12) return v;
      const column = i - (i % 4);
      return v / (Math.hypot(m[column], m[column + 1], m[column + 2]) || 1);
    }),
  );
}
