/**
 * glTF 2.0, .gltf with its files or .glb, as a scene. Its JSON is examined first; what is inside then goes
 * through glTF-Transform.
 *
 * @example
 * const scene = await readGltf(bytes, 'sets/jars.glb', files);
 */
import { Logger, WebIO, type Document, type JSONDocument, type Node } from '@gltf-transform/core';
import { ALL_EXTENSIONS, type Light } from '@gltf-transform/extensions';
import { MeshoptDecoder } from 'meshoptimizer/decoder';
import { defaultLight } from '../../document/defaults.ts';
import type { LightSpec } from '../../document/schema.ts';
import { isKtx2, pngOfKtx2, type TranscodeKtx2 } from '../ktx2.ts';
import type { SceneFiles } from '../scene-files.ts';
import { SceneReading, type ReadOptions } from '../scene-reading.ts';
import { plainNode, type SourceScene } from '../source-scene.ts';
import { checkGltf, type GltfJson } from './check.ts';
import { openContainer, type GltfContainer } from './container.ts';
import { splitShared } from './instances.ts';
import { gltfDefaultMaterial, gltfMaterial } from './materials.ts';
import { gltfMesh, type GltfMesh } from './mesh.ts';

const MESHOPT = 'EXT_meshopt_compression';
const DRACO = 'KHR_draco_mesh_compression';
const BASISU = 'KHR_texture_basisu';

/** Extensions whose meaning is taken over. */
const UNDERSTOOD = new Set([
  'KHR_lights_punctual', 'KHR_materials_clearcoat', 'KHR_materials_emissive_strength', 'KHR_materials_ior',
  'KHR_materials_specular', 'KHR_materials_transmission', 'KHR_materials_volume', 'KHR_texture_transform',
  'KHR_mesh_quantization', 'KHR_node_visibility', 'KHR_materials_unlit', MESHOPT,
]); // prettier-ignore

/** @throws RangeError that names file and place when it cannot be read */
export async function readGltf(
  bytes: Uint8Array,
  file: string,
  files: SceneFiles,
  options: ReadOptions = {},
): Promise<SourceScene> {
  const reading = new SceneReading(files, 'glTF', file, bytes.byteLength, options);
  reading.scene.metresPerUnit = 1;
  const container = openContainer(bytes, file);
  for (const note of container.notes) reading.repaired(file, note);
  const shared = splitShared(container.json, file);
  if (shared.length)
    reading.repaired(file, `${shared.length === 1 ? `node "${shared[0]}" has` : `${shared.length} nodes have`} several parents: taken as instances`); // prettier-ignore
  const understood = new Set([...UNDERSTOOD, ...(options.draco ? [DRACO] : []), ...(options.ktx2 ? [BASISU] : [])]);
  checkGltf(container.json, file, understood);
  reading.scene.extensions = [...(container.json.extensionsUsed ?? [])];
  for (const name of reading.scene.extensions)
    if (!understood.has(name)) reading.notUnderstood(`${file} extensionsUsed`, `extension "${name}"`);
  const images = await readImages(container, file, reading);
  if (options.ktx2) await unpackKtx2(reading, options.ktx2);
  const moving = takeMotion(container.json, file, reading);
  const document = await open(container, file, reading);
  fill(document, container.json, file, reading, images, moving);
  return reading.scene;
}

/** @returns number of the scene's image for each of the file's */
async function readImages({ json, binary }: GltfContainer, file: string, reading: SceneReading): Promise<number[]> {
  const numbers: number[] = [];
  for (const [i, image] of (json.images ?? []).entries()) {
    const where = `${file} images[${i}]`;
    if (image.uri !== undefined && !image.uri.startsWith('data:')) {
      numbers.push(await reading.image(file, decoded(image.uri), where));
      continue;
    }
    const { scene } = reading;
    const name = image.name ? `${image.name}${image.mimeType === 'image/jpeg' ? '.jpg' : '.png'}` : '';
    scene.images.push({ path: name, where, resolved: null, bytes: embedded(json, binary, i), tiles: [] });
    numbers.push(scene.images.length - 1);
  }
  return numbers;
}

/** Those of KTX 2 become PNG beside the name they had, for there is often another of that name. One that is broken stays as it is. */
async function unpackKtx2(reading: SceneReading, transcoder: () => Promise<TranscodeKtx2>): Promise<void> {
  for (const image of reading.scene.images) {
    if (!image.bytes || !isKtx2(image.bytes)) continue;
    const where = image.resolved ?? image.where;
    try {
      image.bytes = pngOfKtx2(image.bytes, await transcoder(), where);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      reading.notUnderstood(image.where, error.message);
      continue;
    }
    if (image.resolved) image.resolved = `${image.resolved}.png`;
    reading.repairedAgain('ktx2', image.where, 'a KTX 2 texture unpacked to a PNG of 8 bits');
  }
}

function decoded(uri: string): string {
  try {
    return decodeURIComponent(uri);
  } catch {
    return uri;
  }
}

function embedded(json: GltfJson, binary: Uint8Array | null, i: number): Uint8Array | null {
  const { uri, bufferView } = json.images![i];
  if (uri !== undefined) return fromDataUri(uri);
  const view = bufferView === undefined ? undefined : json.bufferViews?.[bufferView];
  if (!view) return null;
  const from = json.buffers![view.buffer].uri;
  const bytes = from?.startsWith('data:') ? fromDataUri(from) : binary;
  const start = view.byteOffset ?? 0;
  return bytes ? bytes.subarray(start, start + view.byteLength) : null;
}

function fromDataUri(uri: string): Uint8Array | null {
  const [head, body] = [uri.slice(0, uri.indexOf(',')), uri.slice(uri.indexOf(',') + 1)];
  if (!head.endsWith(';base64')) return null;
  try {
    return Uint8Array.from(atob(body), (c) => c.charCodeAt(0));
  } catch {
    return null;
  }
}

/** What moves, before animation, skins and morphs are taken out: one moment is read. */
function takeMotion(json: GltfJson, file: string, reading: SceneReading) {
  const moves = new Set<number>();
  const appears = new Set<number>();
  const morphs = new Set<number>();
  for (const { channels = [] } of json.animations ?? [])
    for (const { target } of channels) {
      const pointer = (target?.extensions?.KHR_animation_pointer as { pointer?: string } | undefined)?.pointer;
      const node = target?.node ?? Number(/^\/nodes\/(\d+)\//.exec(pointer ?? '')?.[1] ?? -1);
      if (pointer?.endsWith('visible')) appears.add(node);
      else if (target?.path === 'weights') morphs.add(node);
      else moves.add(node);
    }
  if (json.animations?.length)
    reading.notUnderstood(`${file} animations`, 'animation; one moment of the scene is read, and what moves is marked');
  const skinned = new Set((json.nodes ?? []).flatMap(({ skin }, i) => (skin === undefined ? [] : [i])));
  (json.nodes ?? []).forEach(({ mesh }, i) => {
    if (mesh !== undefined && json.meshes?.[mesh]?.primitives.some(({ targets }) => targets?.length)) morphs.add(i);
  });
  delete json.animations;
  delete json.skins;
  for (const node of json.nodes ?? []) delete node.skin;
  for (const mesh of json.meshes ?? []) {
    delete mesh.weights;
    for (const primitive of mesh.primitives) delete primitive.targets;
  }
  return { moves, appears, morphs, skinned };
}

async function open({ json, binary }: GltfContainer, file: string, reading: SceneReading): Promise<Document> {
  const resources: Record<string, Uint8Array> = binary ? { '@glb.bin': binary } : {};
  const lost = new Set<number>();
  for (const [i, { uri, byteLength, extensions }] of (json.buffers ?? []).entries()) {
    const where = `${file} buffers[${i}]`;
    // A stand-in for what is packed elsewhere has no bytes.
    if (extensions?.[MESHOPT]?.fallback) continue;
    if (uri === undefined) {
      if (!binary || binary.byteLength < byteLength)
        throw new RangeError(
          `${where}: claims ${byteLength} bytes, and the binary part has ${binary?.byteLength ?? 0}`,
        );
    } else if (!uri.startsWith('data:')) {
      const { reference, bytes } = await reading.refer('buffer', file, decoded(uri), where);
      reference.used = true;
      if (bytes && bytes.byteLength < byteLength)
        throw new RangeError(`${where}: "${uri}" has ${bytes.byteLength} bytes, ${byteLength} are claimed`);
      if (!bytes) lost.add(i);
      resources[uri] = bytes ?? new Uint8Array(0);
    }
  }
  if (lost.size) leaveOutLost(json, lost, file, reading);
  // Images are the scene's own affair.
  for (const image of json.images ?? []) {
    delete image.bufferView;
    image.uri = 'data:image/png;base64,';
  }
  try {
    // What it would write to the console was told already.
    const io = new WebIO().registerExtensions(ALL_EXTENSIONS).setLogger(new Logger(Logger.Verbosity.SILENT));
    const used = json.extensionsUsed ?? [];
    if (used.includes(MESHOPT)) await MeshoptDecoder.ready;
    io.registerDependencies({
      'meshopt.decoder': MeshoptDecoder,
      ...(used.includes(DRACO) && reading.options.draco ? { 'draco3d.decoder': await reading.options.draco() } : {}),
    });
    return await io.readJSON({ json, resources } as unknown as JSONDocument);
  } catch (error) {
    throw new RangeError(`${file}: is not readable glTF (${(error as Error).message})`, { cause: error });
  }
}

/** Meshes whose numbers are in a buffer that is not there are left out by name. */
function leaveOutLost(json: GltfJson, lost: Set<number>, file: string, reading: SceneReading): void {
  const isLost = (accessor: number | undefined): boolean => {
    const view = accessor === undefined ? undefined : json.accessors?.[accessor]?.bufferView;
    return view !== undefined && lost.has(json.bufferViews?.[view]?.buffer ?? -1);
  };
  (json.meshes ?? []).forEach((mesh, m) => {
    const kept = mesh.primitives.filter(
      ({ attributes, indices }) => ![...Object.values(attributes), indices].some(isLost),
    );
    if (kept.length < mesh.primitives.length)
      reading.notUnderstood(
        `${file} meshes[${m}]`,
        `mesh "${mesh.name ?? m}" left out: the file that holds its numbers is missing`,
      );
    mesh.primitives = kept;
  });
  json.accessors?.forEach((accessor, i) => {
    if (isLost(i)) delete accessor.bufferView;
  });
}

function fill(
  document: Document,
  json: GltfJson,
  file: string,
  reading: SceneReading,
  images: number[],
  motion: ReturnType<typeof takeMotion>,
): void {
  const { scene } = reading;
  const root = document.getRoot();
  const textures = root.listTextures();
  root
    .listMaterials()
    .forEach((material, i) =>
      scene.materials.push(gltfMaterial(material, `${file} materials[${i}]`, (t) => images[textures.indexOf(t)])),
    );
  const materials = root.listMaterials();
  let plain = -1;
  const materialOf = (mesh: number, primitive: number): number => {
    const material = root.listMeshes()[mesh].listPrimitives()[primitive].getMaterial();
    if (material) return materials.indexOf(material);
    if (plain < 0) plain = scene.materials.push(gltfDefaultMaterial(`${file} meshes[${mesh}]`)) - 1;
    return plain;
  };
  const meshes: (GltfMesh | null)[] = root
    .listMeshes()
    .map((mesh, m) => gltfMesh(mesh.listPrimitives(), `${file} meshes[${m}]`, reading));
  const numbers = meshes.map((mesh, m) =>
    mesh
      ? scene.meshes.push({ name: root.listMeshes()[m].getName(), where: `${file} meshes[${m}]`, poly: mesh.poly }) - 1
      : -1,
  );
  const all = root.listNodes();
  const taken = new Map<string, number>();
  const add = (node: Node, parent: number): void => {
    const number = all.indexOf(node);
    const above = parent < 0 ? null : scene.nodes[parent];
    const name = node.getName() || `node ${number}`;
    const wanted = `${above?.path ?? ''}/${name.replaceAll('/', '_')}`;
    const same = taken.get(wanted) ?? 0;
    taken.set(wanted, same + 1);
    const mesh = node.getMesh();
    const m = mesh ? root.listMeshes().indexOf(mesh) : -1;
    const hidden =
      (json.nodes?.[number].extensions?.KHR_node_visibility as { visible?: boolean } | undefined)?.visible === false;
    const own = scene.nodes.length;
    scene.nodes.push({
      ...plainNode(same ? `${wanted}#${same + 1}` : wanted, `${file} nodes[${number}]`),
      name,
      parent,
      local: [...node.getMatrix()],
      world: [...node.getWorldMatrix()],
      visible: (above?.visible ?? true) && !hidden,
      visibilityChanges: motion.appears.has(number),
      moves: (above?.moves ?? false) || motion.moves.has(number),
      mesh: m < 0 ? -1 : numbers[m],
      parts:
        m < 0
          ? []
          : (meshes[m]?.parts ?? []).map(({ primitive, faces }) => ({ material: materialOf(m, primitive), faces })),
      live: [...(motion.skinned.has(number) ? ['skin'] : []), ...(motion.morphs.has(number) ? ['blend shapes'] : [])],
    });
    const light = node.getExtension<Light>('KHR_lights_punctual');
    if (light) {
      const all = { mode: 'all' as const, paths: [] };
      scene.lights.push({ node: own, spec: lightOf(light, node), links: { lights: all, shadowsOf: all } });
    }
    const camera = node.getCamera();
    if (camera)
      scene.cameras.push({
        name: node.getName() || camera.getName() || 'camera',
        node: own,
        fieldOfView: camera.getType() === 'perspective' ? (camera.getYFov() * 180) / Math.PI : 0,
        aspect: camera.getAspectRatio() || null,
        near: camera.getZNear(),
        far: camera.getType() === 'perspective' && !camera.getZFar() ? null : camera.getZFar(),
        lens: null,
      });
    for (const child of node.listChildren()) add(child, own);
  };
  const shown = root.getDefaultScene() ?? root.listScenes()[0];
  if (!shown) throw new RangeError(`${file}: has no scene`);
  if (root.listScenes().length > 1)
    reading.notUnderstood(`${file} scenes`, `${root.listScenes().length - 1} further scenes; the one to show is read`);
  for (const node of shown.listChildren()) add(node, -1);
  if (shown.listChildren().length === 0) reading.notUnderstood(`${file} scenes`, 'a scene without nodes');
}

/** Candela and lux are taken as W/sr and W/m², as KHR_lights_punctual's formulas allow. */
function lightOf(light: Light, node: Node): LightSpec {
  const shared = {
    name: (node.getName() || light.getName()).slice(0, 200),
    colour: [...light.getColor()],
    intensity: light.getIntensity(),
  };
  switch (light.getType()) {
    case 'directional':
      return { ...defaultLight('distant'), ...shared, angle: 0 };
    case 'spot': {
      const outer = light.getOuterConeAngle();
      return {
        ...defaultLight('spot'),
        ...shared,
        cone: (outer * 360) / Math.PI,
        softness: outer > 0 ? 1 - light.getInnerConeAngle() / outer : 0,
      };
    }
    default:
      return { ...defaultLight('point'), ...shared };
  }
}
