/** A shot of ours as a scene under examination: its document, the files it refers to, and what is not there. */
import { filesOf } from '../textures/tiles.ts';
import { emptyPolyMesh } from '../data/poly-mesh.ts';
import { MAP_SLOTS } from '../document/check-references.ts';
import type { MapSpec, MaterialSpec, ShotDocument } from '../document/schema.ts';
import { meshPolygons } from '../data/mesh-polygons.ts';
import { readGlb, type GlbFile } from '../formats/gltf.ts';
import type { SceneFiles } from '../formats/scene-files.ts';
import { SceneReading } from '../formats/scene-reading.ts';
import {
  plainNode,
  plainTexture,
  type SourceScene,
  type SourceTexture,
  type TextureSlot,
} from '../formats/source-scene.ts';
import { findShared } from '../render/compile/load-assets.ts';

export const DOCUMENT = 'shot.json';

export async function fromShot(document: ShotDocument, bytes: number, files: SceneFiles): Promise<SourceScene> {
  return new ShotReading(document, new SceneReading(files, 'shot', DOCUMENT, bytes)).read();
}

class ShotReading {
  private readonly scene: SourceScene;
  private readonly glbs = new Map<string, Promise<GlbFile | null>>();
  /** Number of the mesh of an id; −1: not there. */
  private readonly meshes = new Map<string, number>();

  constructor(
    private readonly document: ShotDocument,
    private readonly reading: SceneReading,
  ) {
    this.scene = reading.scene;
  }

  async read(): Promise<SourceScene> {
    const { document, scene } = this;
    const { final } = document.sheets;
    scene.metresPerUnit = 1;
    scene.sheets = document.sheets;
    Object.assign(scene.settings, {
      width: final.width,
      height: final.height,
      renderer: 'Dusting',
      camera: document.camera,
    });
    const materials = Object.keys(document.materials);
    for (const [id, spec] of Object.entries(document.materials)) await this.material(id, spec);
    for (const [id, object] of Object.entries(document.objects)) {
      const mesh = object.shape === 'mesh' && object.mesh ? await this.mesh(object.mesh) : -1;
      scene.nodes.push({
        ...plainNode(`/${id}`, `/objects/${id}`),
        name: object.name || id,
        local: object.transform,
        world: object.transform,
        visible: !object.hidden,
        moves: object.keys.length > 0 && object.motion === 'static',
        mesh,
        parts: [{ material: materials.indexOf(object.material), faces: null }],
        live:
          mesh >= 0 && scene.meshes[mesh].poly.subdivision !== 'none' && object.subdivision.level === 0
            ? ['subdivision, at level 0']
            : [],
        facing: object.facing,
      });
    }
    for (const [id, { name, transform, ...camera }] of Object.entries(document.cameras)) {
      const node =
        scene.nodes.push({ ...plainNode(`/cameras/${id}`, `/cameras/${id}`), local: transform, world: transform }) - 1;
      scene.cameras.push({
        name: name || id,
        node,
        fieldOfView: camera.fieldOfView,
        aspect: (final.width / final.height) * camera.pixelAspect,
        near: camera.near || null,
        far: camera.far,
        lens: camera,
      });
    }
    const all = { mode: 'all' as const, paths: [] };
    for (const [id, spec] of Object.entries(document.lights))
      scene.lights.push({ node: -1, spec: { ...spec, name: spec.name || id }, links: { lights: all, shadowsOf: all } });
    await this.environment();
    await this.others();
    return scene;
  }

  private async mesh(id: string): Promise<number> {
    const known = this.meshes.get(id);
    if (known !== undefined) return known;
    const { file, mesh, primitive } = this.document.meshes[id];
    const where = `/meshes/${id}`;
    let glb = this.glbs.get(file);
    if (!glb) this.glbs.set(file, (glb = this.open(file, where)));
    const found = await glb;
    let number = -1;
    if (found)
      try {
        const name = `${file} mesh ${mesh} part ${primitive}`;
        const poly = meshPolygons(found.mesh(mesh, primitive), found.polygons(mesh, primitive), name);
        number = this.scene.meshes.push({ name: id, where, poly }) - 1;
      } catch (error) {
        this.reading.notUnderstood(where, (error as Error).message);
        number = this.scene.meshes.push({ name: id, where, poly: emptyPolyMesh() }) - 1;
      }
    this.meshes.set(id, number);
    return number;
  }

  private async open(file: string, where: string): Promise<GlbFile | null> {
    const { reference, bytes } = await this.reading.refer('geometry', DOCUMENT, file, where);
    reference.used = true;
    if (!bytes) return null;
    try {
      return await readGlb(bytes, file);
    } catch (error) {
      reference.state = 'unreadable';
      this.reading.notUnderstood(where, (error as Error).message);
      return null;
    }
  }

  private async material(id: string, spec: MaterialSpec): Promise<void> {
    const coat = spec.coat === null ? null : this.document.coats[spec.coat];
    const textures: SourceTexture[] = [];
    for (const key of MAP_SLOTS) {
      const map = spec[key];
      const texture = map === null ? null : await this.map(map, SLOTS[key], `/materials/${id}/${key}`);
      if (texture) textures.push(texture);
    }
    this.scene.materials.push({
      name: spec.name || id,
      where: `/materials/${id}`,
      missing: false,
      spec: { ...spec, ...Object.fromEntries([...MAP_SLOTS, 'coat'].map((key) => [key, null])) },
      coat: coat?.kind === 'coat' ? { strength: coat.strength, roughness: coat.roughness } : null,
      thin: Object.values(this.document.objects).some(({ material, thin }) => material === id && thin),
      textures,
    });
  }

  private async map(id: string, slot: TextureSlot, where: string): Promise<SourceTexture | null> {
    let map = this.document.maps[id];
    let texture = map.kind === 'image' ? this.document.textures[map.texture] : null;
    if (map.kind === 'shared') {
      const found = await this.shared(map.file, map.item, where, 'maps');
      if (!found) return null;
      map = { ...found.item, ...map.override } as MapSpec;
      texture = found.texture;
    }
    if (map.kind !== 'image' || !texture) return null;
    return {
      ...plainTexture(slot, await this.reading.image(DOCUMENT, texture.file, where)),
      uvSet: map.uvSet,
      offset: [map.offset[0], map.offset[1]],
      rotation: map.rotation,
      scale: [map.scale[0], map.scale[1]],
      wrap: map.wrap,
      filter: map.filter,
      channel: map.channel,
      colourSpace: texture.colourSpace,
    };
  }

  private async shared(file: string, item: string, where: string, kind: 'maps' | 'coats') {
    const read = async (path: string) => {
      const { reference, bytes } = await this.reading.refer('fragments', DOCUMENT, path, where);
      reference.used = true;
      if (!bytes) throw new RangeError(`${path} is not there`);
      return bytes;
    };
    try {
      return await findShared(read, file, kind, item);
    } catch (error) {
      this.reading.notUnderstood(where, (error as Error).message);
      return null;
    }
  }

  /** Files that the document names and nothing so far came to: keys' meshes and coats are used, the rest is not. */
  private async others(): Promise<void> {
    const { document, reading, scene } = this;
    for (const { keys } of Object.values(document.objects))
      for (const { mesh } of keys) if (mesh) await this.mesh(mesh);
    for (const [id, coat] of Object.entries(document.coats))
      if (coat.kind === 'shared') await this.shared(coat.file, coat.item, `/coats/${id}`, 'coats');
    const { background } = document;
    if (background?.texture)
      await reading.image(DOCUMENT, document.textures[background.texture].file, '/background/texture');
    const known = new Set(scene.references.map(({ path }) => path));
    const named = { meshes: document.meshes, textures: document.textures, maps: document.maps };
    for (const [kind, items] of Object.entries(named))
      for (const [id, item] of Object.entries(items)) {
        if (!('file' in item)) continue;
        const of = kind === 'meshes' ? 'geometry' : kind === 'textures' ? 'image' : 'fragments';
        for (const file of filesOf(item)) {
          if (known.has(file)) continue;
          known.add(file);
          await reading.refer(of, DOCUMENT, file, `/${kind}/${id}`);
        }
      }
  }

  private async environment(): Promise<void> {
    const { kind, colour, intensity, rotation, texture } = this.document.environment;
    if (intensity === 0) return;
    const file = kind === 'image' && texture ? this.document.textures[texture].file : null;
    this.scene.environment = {
      image: file === null ? null : await this.reading.image(DOCUMENT, file, '/environment/texture'),
      colour: [colour[0], colour[1], colour[2]],
      intensity,
      rotation,
    };
  }
}

const SLOTS: Record<(typeof MAP_SLOTS)[number], TextureSlot> = {
  baseColourMap: 'baseColour',
  metallicMap: 'metallic',
  roughnessMap: 'roughness',
  normalMap: 'normal',
  bumpMap: 'bump',
  displacementMap: 'displacement',
  alphaMap: 'alpha',
  emissionMap: 'emission',
};
