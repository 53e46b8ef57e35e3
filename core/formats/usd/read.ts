/**
 * Scenes in USD text (.usda, or .usd that is text): prims, meshes with their polygons, lights, cameras, preview
 * surfaces and render settings, put together from all layers. Source: OpenUSD's schema documentation.
 *
 * @example
 * const scene = await readUsd(bytes, 'sets/yard.usda', files);
 */
import { multiply, rotationOf, rotationX, scaling, translation, type Transform } from '../../data/transform.ts';
import type { PolyMesh } from '../../data/poly-mesh.ts';
import { extensionOf } from '../paths.ts';
import type { SceneFiles } from '../scene-files.ts';
import { SceneReading, type ReadOptions } from '../scene-reading.ts';
import { namedMaterial, plainNode, type SourceNode, type SourcePart, type SourceScene } from '../source-scene.ts';
import { assetOf, flagOf, isAnimated, numberOf, numbersOf, textOf, tripleOf } from './access.ts';
import { primAt, UsdComposer } from './compose.ts';
import { editedList, type UsdAttribute, type UsdPrim } from './layer.ts';
import { colourOf, exposedIntensity, USD_LIGHTS, usdLight } from './lights.ts';
import { usdMaterial } from './materials.ts';
import { usdMesh } from './mesh.ts';
import { isUsdShape, usdShape } from './shapes.ts';
import { placeOf } from './transform.ts';

/** @throws RangeError that names file and line when it cannot be read */
export async function readUsd(
  bytes: Uint8Array,
  file: string,
  files: SceneFiles,
  options: ReadOptions = {},
): Promise<SourceScene> {
  const reading = new SceneReading(files, 'USD', file, bytes.byteLength, options);
  const root = await new UsdComposer(reading).compose(bytes, file);
  await new UsdStage(root, reading).read();
  return reading.scene;
}

/** Prims that only hold others. */
const HOLDERS = new Set(['Xform', 'Scope', 'SkelRoot', '']);
/** Read where something refers to them. */
const READ_ELSEWHERE = new Set(['Material', 'Shader', 'NodeGraph', 'GeomSubset', 'RenderProduct', 'RenderVar']);

/** What a prim takes from those above it. */
interface Inherited {
  parent: number;
  world: Transform;
  visible: boolean;
  material: string | null;
  purpose: string;
  moves: boolean;
}

class UsdStage {
  private readonly scene: SourceScene;
  private readonly materials = new Map<string, number>();
  /** By what a mesh says: the same attributes, referred to twice, are one mesh. */
  private readonly meshes = new Map<string, number>();
  private readonly numbers = new Map<UsdAttribute, number>();
  private readonly toMetres: Transform;
  private readonly scale: number;

  constructor(
    private readonly root: UsdPrim,
    private readonly reading: SceneReading,
  ) {
    this.scene = reading.scene;
    const unit = root.metadata.get('metersPerUnit');
    // Without a word of it, a unit is a centimetre.
    this.scale = typeof unit === 'number' && unit > 0 ? unit : 0.01;
    this.scene.metresPerUnit = typeof unit === 'number' ? unit : null;
    const size = scaling(this.scale, this.scale, this.scale);
    this.toMetres = root.metadata.get('upAxis') === 'Z' ? multiply(rotationX(-90), size) : size;
  }

  async read(): Promise<void> {
    this.settings();
    const start: Inherited = {
      parent: -1, world: this.toMetres, visible: true, material: null, purpose: 'default', moves: false,
    }; // prettier-ignore
    for (const prim of this.root.children.values()) await this.prim(prim, start);
  }

  private settings(): void {
    const { metadata } = this.root;
    const { settings } = this.scene;
    const number = (key: string) => {
      const value = metadata.get(key);
      return typeof value === 'number' ? value : null;
    };
    settings.frameRate = number('framesPerSecond') ?? number('timeCodesPerSecond');
    settings.firstFrame = number('startTimeCode');
    settings.lastFrame = number('endTimeCode');
    const path = metadata.get('renderSettingsPrimPath');
    const prim = typeof path === 'string' ? primAt(this.root, path) : this.find(this.root, 'RenderSettings');
    if (!prim) return;
    const [width, height] = numbersOf(prim, 'resolution') ?? [];
    settings.width = width ?? null;
    settings.height = height ?? null;
    settings.pixelAspect = numberOf(prim, 'pixelAspectRatio');
    settings.camera = prim.relationships.get('camera')?.targets[0] ?? null;
    const [product] = prim.relationships.get('products')?.targets ?? [];
    const output = product ? primAt(this.root, product) : null;
    settings.output = output && (textOf(output, 'productName') || null);
  }

  private find(prim: UsdPrim, type: string): UsdPrim | null {
    if (prim.type === type) return prim;
    for (const child of prim.children.values()) {
      const found = this.find(child, type);
      if (found) return found;
    }
    return null;
  }

  private async prim(prim: UsdPrim, above: Inherited): Promise<void> {
    if (prim.specifier !== 'def' || prim.metadata.get('active') === false) return;
    if (READ_ELSEWHERE.has(prim.type) || prim.type === 'RenderSettings') return;
    const place = placeOf(prim);
    for (const what of place.unknown) this.reading.notUnderstood(prim.where, `${what} of "${prim.name}"`);
    const purpose = textOf(prim, 'purpose') ?? above.purpose;
    const own: Inherited = {
      parent: this.scene.nodes.length,
      world: multiply(place.fromRoot ? this.toMetres : above.world, place.local),
      visible: above.visible && textOf(prim, 'visibility') !== 'invisible',
      material: prim.relationships.get('material:binding')?.targets[0] ?? above.material,
      purpose,
      moves: above.moves || place.moves,
    };
    const node: SourceNode = {
      ...plainNode(prim.path, prim.where),
      parent: above.parent,
      local: place.local,
      world: own.world,
      visible: own.visible && (purpose === 'default' || purpose === 'render'),
      visibilityChanges: isAnimated(prim, 'visibility'),
      moves: own.moves,
    };
    this.scene.nodes.push(node);
    if (prim.relationships.has('skel:skeleton') || prim.relationships.has('skel:animationSource'))
      node.live.push('skin');
    if (prim.relationships.has('skel:blendShapeTargets')) node.live.push('blend shapes');
    for (const name of prim.relationships.keys())
      if (name.startsWith('material:binding:'))
        this.reading.notUnderstoodAgain(name, prim.where, `"${name}" of "${prim.name}"`);
    if (editedList(prim.lists.get('apiSchemas')).includes('MeshLightAPI'))
      this.reading.notUnderstood(prim.where, `mesh light "${prim.name}"; give its material emission`);
    await this.content(prim, node, own);
    if (prim.type === 'PointInstancer') await this.instances(prim, own);
    else for (const child of prim.children.values()) await this.prim(child, own);
  }

  /** What the prim itself is. */
  private async content(prim: UsdPrim, node: SourceNode, own: Inherited): Promise<void> {
    if (prim.type === 'Mesh' || isUsdShape(prim)) await this.mesh(prim, node, own.material);
    else if (USD_LIGHTS.has(prim.type)) {
      const light = usdLight(prim, own.parent, lengthOf(own.world), this.reading);
      light.spec.hidden = !node.visible;
      this.scene.lights.push(light);
    } else if (prim.type === 'DomeLight' || prim.type === 'DomeLight_1') await this.dome(prim, own);
    else if (prim.type === 'Camera') this.camera(prim, own.parent);
    else if (!HOLDERS.has(prim.type) && prim.type !== 'PointInstancer')
      this.reading.notUnderstoodAgain(prim.type, prim.where, `${prim.type} "${prim.name}"`);
  }

  private async mesh(prim: UsdPrim, node: SourceNode, binding: string | null): Promise<void> {
    const key = this.keyOf(prim);
    let number = this.meshes.get(key);
    if (number === undefined) {
      const poly = isUsdShape(prim) ? usdShape(prim) : usdMesh(prim, this.reading);
      number = this.scene.meshes.push({ name: prim.name, where: prim.where, poly }) - 1;
      this.meshes.set(key, number);
    }
    const { poly } = this.scene.meshes[number];
    node.mesh = number;
    node.facing = flagOf(prim, 'doubleSided') === false ? 'front' : 'both';
    if (isAnimated(prim, 'points')) node.moves = true;
    if (poly.subdivision === 'loop') node.live.push('subdivision (loop)');
    node.parts = await this.parts(prim, poly, binding);
  }

  private keyOf(prim: UsdPrim): string {
    const numberOf = (attribute: UsdAttribute) => {
      const known = this.numbers.get(attribute) ?? this.numbers.size;
      this.numbers.set(attribute, known);
      return known;
    };
    return [prim.type, ...[...prim.attributes.values()].map(numberOf)].join(' ');
  }

  private async parts(prim: UsdPrim, poly: PolyMesh, binding: string | null): Promise<SourcePart[]> {
    const parts: SourcePart[] = [];
    const taken = new Uint8Array(poly.faceSizes.length);
    for (const subset of prim.children.values()) {
      const target = subset.relationships.get('material:binding')?.targets[0];
      if (subset.type !== 'GeomSubset' || !target) continue;
      const faces = Uint32Array.from(numbersOf(subset, 'indices') ?? []);
      const wrong = faces.find((face) => face >= taken.length);
      if (wrong !== undefined)
        throw new RangeError(`${subset.where}: subset "${subset.name}" names face ${wrong} of ${taken.length}`);
      for (const face of faces) taken[face] = 1;
      parts.push({ material: await this.material(target, subset.where), faces });
    }
    const material = binding ? await this.material(binding, prim.where) : this.displayColour(prim);
    if (parts.length === 0) return [{ material, faces: null }];
    const rest = Uint32Array.from([...taken.keys()].filter((face) => !taken[face]));
    return rest.length ? [{ material, faces: rest }, ...parts] : parts;
  }

  private async material(path: string, where: string): Promise<number> {
    const known = this.materials.get(path);
    if (known !== undefined) return known;
    const prim = primAt(this.root, path);
    let material;
    if (prim?.type === 'Material') material = await usdMaterial(prim, this.root, this.reading);
    else {
      this.reading.notUnderstood(where, `material <${path}> is not there`);
      const name = path.slice(path.lastIndexOf('/') + 1);
      material = { ...namedMaterial(name, where), missing: true };
    }
    const number = this.scene.materials.push(material) - 1;
    this.materials.set(path, number);
    return number;
  }

  /** The colour a prim shows without a material; −1 when it has none. */
  private displayColour(prim: UsdPrim): number {
    const colour = tripleOf(prim, 'primvars:displayColor');
    if (!colour) return -1;
    const key = `displayColor ${colour.join(' ')}`;
    const known = this.materials.get(key);
    if (known !== undefined) return known;
    if (numbersOf(prim, 'primvars:displayColor')!.length > 3)
      this.reading.notUnderstoodAgain(
        'displayColor',
        prim.where,
        `display colours that vary over "${prim.name}"; the first one counts`,
      );
    const material = namedMaterial('display colour', prim.where);
    material.spec.baseColour = colour.map((v) => Math.min(1, Math.max(0, v)));
    const number = this.scene.materials.push(material) - 1;
    this.materials.set(key, number);
    return number;
  }

  private async dome(prim: UsdPrim, own: Inherited): Promise<void> {
    if (!own.visible) {
      this.reading.notUnderstood(prim.where, `dome light "${prim.name}" is hidden, and left out`);
      return;
    }
    if (this.scene.environment) {
      this.reading.notUnderstood(prim.where, `a second dome light "${prim.name}"; the first one counts`);
      return;
    }
    const texture = assetOf(prim, 'inputs:texture:file') ?? assetOf(prim, 'texture:file');
    const format = textOf(prim, 'inputs:texture:format') ?? textOf(prim, 'texture:format') ?? 'automatic';
    if (texture && format !== 'automatic' && format !== 'latlong')
      this.reading.notUnderstood(prim.where, `texture format "${format}" of dome light "${prim.name}"`);
    const [r, g, b] = colourOf(prim);
    const m = own.world;
    this.scene.environment = {
      image: texture ? await this.reading.image(texture.file, texture.path, prim.where) : null,
      colour: [r, g, b],
      intensity: exposedIntensity(prim),
      rotation: (Math.atan2(-m[2], m[0]) * 180) / Math.PI,
    };
  }

  private camera(prim: UsdPrim, node: number): void {
    const focal = numberOf(prim, 'focalLength') ?? 50;
    const aperture = numberOf(prim, 'verticalAperture') ?? 15.2908;
    const [near, far] = numbersOf(prim, 'clippingRange') ?? [null, null];
    const isParallel = textOf(prim, 'projection') === 'orthographic';
    for (const name of ['horizontalApertureOffset', 'verticalApertureOffset'])
      if (numberOf(prim, name)) this.reading.notUnderstood(prim.where, `"${name}" of camera "${prim.name}"`);
    this.scene.cameras.push({
      name: prim.name,
      node,
      fieldOfView: isParallel ? 0 : (Math.atan(aperture / 2 / focal) * 360) / Math.PI,
      aspect: (numberOf(prim, 'horizontalAperture') ?? 20.955) / aperture,
      near: near === null ? null : near * this.scale,
      far: far === null ? null : far * this.scale,
      // Apertures are in tenths of a scene unit; an f-stop of 0 is a pinhole.
      lens: {
        sensorHeight: aperture * this.scale * 100,
        fStop: numberOf(prim, 'fStop') || null,
        focusDistance: (numberOf(prim, 'focusDistance') ?? 0) * this.scale || null,
      },
    });
  }

  /** Every copy as prims of its own, below the instancer. */
  private async instances(prim: UsdPrim, own: Inherited): Promise<void> {
    const prototypes = (prim.relationships.get('prototypes')?.targets ?? []).map((path) => primAt(this.root, path));
    const indices = numbersOf(prim, 'protoIndices') ?? [];
    const positions = numbersOf(prim, 'positions') ?? new Float64Array(0);
    const turns = numbersOf(prim, 'orientations');
    const scales = numbersOf(prim, 'scales');
    const unseen = new Set(numbersOf(prim, 'invisibleIds') ?? []);
    let copy = 0;
    for (const index of indices) {
      const i = copy++;
      const prototype = prototypes[index];
      if (!prototype || unseen.has(i)) continue;
      if (positions.length < i * 3 + 3)
        throw new RangeError(
          `${prim.where}: ${prim.name} places ${indices.length} copies, but has ${positions.length / 3} positions`,
        );
      let place = translation(positions[i * 3], positions[i * 3 + 1], positions[i * 3 + 2]);
      if (turns && turns.length >= i * 4 + 4)
        place = multiply(place, rotationOf(turns[i * 4 + 1], turns[i * 4 + 2], turns[i * 4 + 3], turns[i * 4]));
      if (scales && scales.length >= i * 3 + 3)
        place = multiply(place, scaling(scales[i * 3], scales[i * 3 + 1], scales[i * 3 + 2]));
      const first = this.scene.nodes.length;
      const world = multiply(own.world, place);
      this.scene.nodes.push({
        ...plainNode(`${prim.path}/copy${i}`, prim.where),
        parent: own.parent,
        local: place,
        world,
        visible: own.visible,
      });
      await this.prim({ ...prototype, specifier: 'def' }, { ...own, parent: first, world });
      for (const node of this.scene.nodes.slice(first + 1))
        node.path = `${prim.path}/copy${i}/${node.path.split('/').pop()}`;
    }
  }
}

/** How much longer a transform makes things, on average. */
const lengthOf = (m: Transform): number =>
  (Math.hypot(m[0], m[1], m[2]) + Math.hypot(m[4], m[5], m[6]) + Math.hypot(m[8], m[9], m[10])) / 3;

/** Whether a file is of this kind. */
export const isUsd = (file: string, bytes: Uint8Array): boolean =>
  ['usda', 'usd'].includes(extensionOf(file)) || new TextDecoder().decode(bytes.subarray(0, 6)) === '#usda ';
