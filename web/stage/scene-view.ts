/**
 * The scene from outside: meshes as they were compiled, lights and cameras as lines, one of them held by handles.
 *
 * Everything stands about the shot's camera as origin, for what is drawn is drawn in single precision.
 *
 * @example
 * const view = new SceneView(canvas, { picked: (pointer) => …, moved: (things) => … });
 * view.show(document, meshes);
 * view.select(['/lights/sun']);
 */
import {
  AmbientLight,
  BoxGeometry,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  EdgesGeometry,
  GridHelper,
  Group,
  InstancedMesh,
  LineBasicMaterial,
  LineSegments,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  Object3D,
  PerspectiveCamera,
  Raycaster,
  Scene,
  Vector2,
  Vector3,
  WebGLRenderer,
  type Intersection,
} from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { TransformControls } from 'three/addons/controls/TransformControls.js';
import { placementOf, type Triple } from '../../core/data/placement.ts';
import { middleOf, movedTogether, NOT_MOVED } from '../../core/data/together.ts';
import type { Transform } from '../../core/data/transform.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { cameraLines, crossLines, lightLines, reachLines, type Segments } from './glyphs.ts';
import { MAP_SLOTS } from '../../core/document/check-references.ts';
import type { StageMesh, StageMeshes } from './load.worker.ts';
import type { MapImage } from './map-image.ts';
import type { SeamLines } from './seam-lines.ts';
import { disposeLook, lookMaterial, type SurfaceLook } from './surface-looks.ts';

export type HandleMode = 'translate' | 'rotate';

/** From a place that is asked about towards a light: where both are, and what was met between. */
export interface StageWay {
  from: Triple;
  to: Triple;
  met: { at: Triple; blocks: boolean }[];
  /** A shadow is missing there. */
  isMissing: boolean;
}

export interface StageEvents {
  /** Something was clicked, with Ctrl or Shift to go along with what is chosen; null: nothing. */
  picked(pointer: string | null, isAlong: boolean): void;
  /** What is held stands otherwise, by handles that move it or turn it: each by its pointer. */
  moved(moved: { pointer: string; transform: Transform }[], by: HandleMode): void;
}

const ACCENT = 0xd8e05a;
const LIGHT = 0xf0d38a;
const CAMERA = 0x9fc5e8;
const REACH = 0x8a8a8a;
const MISSING = 0xff9c8a;
const MET = 0xffffff;
/** Seams whose sides have moved apart. */
const OPEN = 0xff3b30;
/** Of the size of glyphs: the cross where something was met. */
const CROSS = 0.15;
/** Triangles beyond which a box stands for the edges of what is chosen. */
const MOST_EDGES = 200_000;
const EDGE_DEGREES = 25;
/** Places over the frame where it is asked what the camera sees, from side to side. */
const RAYS = [0.1, 0.3, 0.5, 0.7, 0.9];
/** How far before the camera the middle lies, in sizes of a light without one. */
const AHEAD = 6;
/** Share of the way to the middle that is cut away, and least metres that are. */
const CUT = 0.55;
const NEAR = 0.001;
/** Pixels that the pointer may move in a click. */
const CLICK = 4;

const lines = (segments: Segments | Float32Array, colour: number) => {
  const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(Float32Array.from(segments), 3));
  return new LineSegments(geometry, new LineBasicMaterial({ color: colour }));
};

/** Takes everything out of a group, and what was made for it alone off the graphics card: meshes keep their geometry. */
function empty(group: Group): void {
  for (const child of group.children) {
    if (child instanceof InstancedMesh) child.dispose();
    else if (child instanceof LineSegments || child instanceof Mesh) child.geometry.dispose();
    if (child instanceof LineSegments) (child.material as LineBasicMaterial).dispose();
  }
  group.clear();
}

export class SceneView {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new PerspectiveCamera(45, 1, 0.01, 1e6);
  private readonly orbit: OrbitControls;
  private readonly handles: TransformControls;
  private readonly shapes = new Group();
  private readonly glyphs = new Group();
  private readonly marks = new Group();
  private readonly ways = new Group();
  private readonly places = new Group();
  private place: [number, number] | null = null;
  private way: StageWay | null = null;
  private readonly held = new Object3D();
  private readonly geometries = new Map<string, BufferGeometry>();
  /** Seams of each mesh, in its own space. */
  private readonly seams = new Map<string, SeamLines>();
  private image: MapImage | null = null;
  private look: SurfaceLook = 'shaded';
  private shownMap: string | null = null;
  private hasSeams = false;
  /** Of surfaces as they are shown, and of those that do not wear the map that is shown. */
  private material = lookMaterial('shaded', null);
  private readonly plain = lookMaterial('shaded', null);
  /** Key of each object's mesh among them. */
  private meshOf: Record<string, string> = {};
  private document: ShotDocument | null = null;
  private origin: Triple = [0, 0, 0];
  private size = 1;
  /** What the shot's camera looks at, in front of it. */
  private readonly centre = new Vector3();
  private selected: string[] = [];
  /** Of several that are held together: where each stood when the handles took them. */
  private heldFrom: Transform[] = [];
  private isWaiting = false;
  /** The document has changed since it was built. */
  private isStale = false;
  private isCut = true;
  private mode: HandleMode = 'translate';

  /** @throws Error where the browser has no WebGL */
  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly events: StageEvents,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, logarithmicDepthBuffer: true });
    this.renderer.setPixelRatio(window.devicePixelRatio);
    this.scene.background = new Color(0x2a2a2a);
    const sun = new DirectionalLight(0xffffff, 1.6);
    sun.position.set(1, 3, 2);
    this.scene.add(
      new AmbientLight(0xffffff, 1.2),
      sun,
      this.shapes,
      this.glyphs,
      this.marks,
      this.ways,
      this.places,
      this.held,
    );
    this.orbit = new OrbitControls(this.camera, canvas);
    this.orbit.addEventListener('change', () => this.draw());
    this.handles = new TransformControls(this.camera, canvas);
    this.handles.setSize(0.8);
    this.handles.addEventListener('change', () => this.draw());
    this.handles.addEventListener('dragging-changed', ({ value }) => (this.orbit.enabled = !value));
    this.handles.addEventListener('objectChange', () => this.selected.length && this.events.moved(this.movedThings(), this.handles.mode as HandleMode)); // prettier-ignore
    this.scene.add(this.handles.getHelper());
    canvas.addEventListener('pointerdown', this.press);
    canvas.addEventListener('pointerup', this.release);
  }

  /**
   * Shows a document; the first one is looked at from behind its camera.
   * @param shapes its meshes where they changed; null: those that are there
   */
  show(document: ShotDocument, shapes: StageMeshes | null): void {
    const isFirst = this.document === null;
    this.document = document;
    if (isFirst) this.origin = document.cameras[document.camera].transform.slice(12, 15) as Triple;
    if (shapes) this.takeShapes(shapes);
    this.isStale = true;
    if (isFirst) {
      this.rebuild();
      this.behindCamera();
    }
    this.draw();
  }

  select(pointers: readonly string[]): void {
    this.selected = pointers.flatMap((pointer) => /^\/(objects|lights|cameras)\/[^/]+/.exec(pointer)?.[0] ?? []);
    this.mark();
    this.draw();
  }

  /** Draws the way from a place to a light, or none. */
  showWay(way: StageWay | null): void {
    this.way = way;
    empty(this.ways);
    if (way && this.document) {
      const about = (at: Triple) => at.map((c, a) => c - this.origin[a]);
      const cross = (at: Triple) => crossLines(about(at), CROSS * this.size);
      const drawn = [
        lines([...about(way.from), ...about(way.to), ...cross(way.from)], way.isMissing ? MISSING : ACCENT),
        ...way.met.map(({ at, blocks }) => lines(cross(at), blocks ? MET : MISSING)),
      ];
      for (const one of drawn) {
        (one.material as LineBasicMaterial).depthTest = false;
        this.ways.add(one);
      }
    }
    this.mark();
    this.draw();
  }

  /**
   * Marks what the shot's camera sees at a place of its frame, or nothing.
   * @param place from the left and from the top, 0–1
   */
  showPlace(place: [number, number] | null): void {
    this.place = place;
    this.markPlace();
    this.draw();
  }

  private markPlace(): void {
    empty(this.places);
    const at = this.place && this.document ? this.met(...this.place)?.point : undefined;
    if (!at) return;
    const drawn = lines(crossLines(at.toArray(), 2 * CROSS * this.size), MET);
    (drawn.material as LineBasicMaterial).depthTest = false;
    this.places.add(drawn);
  }

  /** What a ray of the shot's camera meets first, about the stage's origin. @param x, y from the left and from the top, 0–1 */
  private met(x: number, y: number): Intersection | undefined {
    const { transform, fieldOfView, pixelAspect } = this.document!.cameras[this.document!.camera];
    const { width, height } = this.document!.sheets.preview;
    const place = this.matrix(transform);
    const half = Math.tan((fieldOfView * Math.PI) / 360);
    const way = new Vector3((2 * x - 1) * half * (width / height) * pixelAspect, (1 - 2 * y) * half, -1).transformDirection(place); // prettier-ignore
    const things = this.shapes.children.filter((child) => child instanceof InstancedMesh);
    return new Raycaster(new Vector3().setFromMatrixPosition(place), way).intersectObjects(things)[0];
  }

  setMode(mode: HandleMode): void {
    this.mode = mode;
    this.mark();
    this.draw();
  }

  /**
   * How surfaces are shown from now on.
   * @param map id of the map that is shown where a material wears it; null: none
   */
  setLook(look: SurfaceLook, map: string | null): void {
    this.look = look;
    this.shownMap = map;
    this.renewMaterial();
  }

  setSeams(hasSeams: boolean): void {
    this.hasSeams = hasSeams;
    this.isStale = true;
    this.draw();
  }

  private renewMaterial(): void {
    disposeLook(this.material);
    this.material = lookMaterial(this.look, this.image);
    this.isStale = true;
    this.draw();
  }

  /** Cuts away what stands before the middle, or shows it. */
  setCut(isCut: boolean): void {
    this.isCut = isCut;
    this.draw();
  }

  /** Looks from above and behind the shot’s camera, at what it sees. */
  behindCamera(): void {
    const { transform } = this.document!.cameras[this.document!.camera];
    const back = new Vector3(transform[8], transform[9], transform[10]).normalize();
    const far = this.size * AHEAD;
    this.orbit.target.copy(this.centre);
    this.camera.position.copy(this.centre).addScaledVector(back, far * 1.5).add(new Vector3(0, far * 0.35, 0)); // prettier-ignore
    this.orbit.update();
  }

  resize(width: number, height: number): void {
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / Math.max(1, height);
    this.camera.updateProjectionMatrix();
    this.draw();
  }

  dispose(): void {
    this.canvas.removeEventListener('pointerdown', this.press);
    this.canvas.removeEventListener('pointerup', this.release);
    this.handles.dispose();
    this.orbit.dispose();
    for (const group of [this.shapes, this.glyphs, this.marks, this.ways, this.places]) empty(group);
    this.dropShapes();
    for (const material of [this.material, this.plain]) disposeLook(material);
    this.renderer.dispose();
  }

  private takeShapes({ meshes, meshOf, image }: StageMeshes): void {
    this.dropShapes();
    for (const mesh of meshes) this.addGeometry(mesh);
    this.meshOf = meshOf;
    this.image = image;
    this.renewMaterial();
  }

  private dropShapes(): void {
    for (const geometry of this.geometries.values()) geometry.dispose();
    this.geometries.clear();
    this.seams.clear();
  }

  private addGeometry({ id, positions, normals, uvs, indices, seams }: StageMesh): void {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(positions, 3));
    geometry.setIndex(new BufferAttribute(indices, 1));
    if (normals) geometry.setAttribute('normal', new BufferAttribute(normals, 3));
    else geometry.computeVertexNormals();
    if (uvs) geometry.setAttribute('uv', new BufferAttribute(uvs, 2));
    this.geometries.set(id, geometry);
    this.seams.set(id, seams);
  }

  /** A transform of the document about the stage's origin. */
  private matrix(transform: Transform): Matrix4 {
    const at = [...transform];
    for (let a = 0; a < 3; a++) at[12 + a] -= this.origin[a];
    return new Matrix4().fromArray(at);
  }

  private rebuild(): void {
    this.isStale = false;
    this.build();
    this.markPlace();
    // Handles that are being dragged stay in the hand.
    if (!this.handles.dragging) this.mark();
  }

  private build(): void {
    const document = this.document!;
    empty(this.shapes);
    empty(this.glyphs);
    const byMesh = new Map<string, string[]>();
    for (const [id, { hidden, shape, transform }] of Object.entries(document.objects)) {
      if (hidden) continue;
      const mesh = this.meshOf[id];
      if (shape === 'floor') this.shapes.add(this.floor(transform));
      else if (this.geometries.has(mesh)) {
        const key = `${this.isShownOn(id) ? '' : 'plain '}${mesh}`;
        byMesh.set(key, [...(byMesh.get(key) ?? []), id]);
        if (this.hasSeams) this.addSeams(mesh, transform);
      }
    }
    const colour = new Color();
    for (const ids of byMesh.values()) {
      const isShown = this.isShownOn(ids[0]);
      const isTinted = !isShown || this.look === 'shaded' || this.look === 'wire';
      const copies = new InstancedMesh(this.geometries.get(this.meshOf[ids[0]])!, isShown ? this.material : this.plain, ids.length); // prettier-ignore
      ids.forEach((id, i) => {
        const object = document.objects[id];
        const [r, g, b] = document.materials[object.material].baseColour;
        copies.setMatrixAt(i, this.matrix(object.transform));
        // A map and UVs are shown as they are.
        copies.setColorAt(i, isTinted ? colour.setRGB(0.15 + 0.75 * r, 0.15 + 0.75 * g, 0.15 + 0.75 * b) : colour.setRGB(1, 1, 1)); // prettier-ignore
      });
      copies.userData = { pointers: ids.map((id) => `/objects/${id}`) };
      copies.computeBoundingSphere();
      this.shapes.add(copies);
    }
    this.size = this.glyphSize();
    const { transform } = document.cameras[document.camera];
    const ahead = new Vector3(-transform[8], -transform[9], -transform[10]).normalize();
    this.centre.setFromMatrixPosition(this.matrix(transform)).addScaledVector(ahead, this.size * AHEAD);
    const shape = document.sheets.preview.width / document.sheets.preview.height;
    for (const [id, light] of Object.entries(document.lights))
      if (light.kind !== 'mesh') this.addGlyph(`/lights/${id}`, lightLines(light, this.size), light.hidden ? REACH : LIGHT, light.transform); // prettier-ignore
    for (const [id, camera] of Object.entries(document.cameras)) this.addGlyph(`/cameras/${id}`, cameraLines(camera, shape, this.size), CAMERA, camera.transform); // prettier-ignore
  }

  /** Whether an object is shown by the look that is chosen: of a map, where its material wears it. */
  private isShownOn(id: string): boolean {
    if (this.look !== 'map') return true;
    const material = this.document!.materials[this.document!.objects[id].material];
    return MAP_SLOTS.some((slot) => material[slot] === this.shownMap) && this.geometries.get(this.meshOf[id])!.hasAttribute('uv'); // prettier-ignore
  }

  private addSeams(mesh: string, transform: Transform): void {
    const { closed, open } = this.seams.get(mesh)!;
    for (const [segments, colour] of [
      [closed, ACCENT],
      [open, OPEN],
    ] as const) {
      if (segments.length === 0) continue;
      const drawn = lines(segments, colour);
      // A gap is seen through whatever lies before it.
      (drawn.material as LineBasicMaterial).depthTest = colour !== OPEN;
      drawn.applyMatrix4(this.matrix(transform));
      this.shapes.add(drawn);
    }
  }

  /** Metres that lights and cameras without a size are drawn as large as: a share of how far off things are that the camera sees. */
  private glyphSize(): number {
    const { focusDistance } = this.document!.cameras[this.document!.camera];
    const met = RAYS.flatMap((y) => RAYS.map((x) => this.met(x, y)));
    const distances = met.flatMap((hit) => (hit ? [hit.distance] : []));
    distances.sort((a, b) => a - b);
    return (distances[Math.floor(distances.length / 2)] ?? focusDistance) / (AHEAD + 2);
  }

  private floor(transform: Transform): GridHelper {
    const grid = new GridHelper(400, 80, 0x555555, 0x3a3a3a);
    grid.applyMatrix4(this.matrix(transform));
    return grid;
  }

  private addGlyph(pointer: string, segments: Segments, colour: number, transform: Transform): void {
    const drawn = lines(segments, this.selected.includes(pointer) ? ACCENT : colour);
    // A sun stands nowhere: it is drawn over what the stage is turned about.
    const place = this.matrix(transform);
    if (this.isSun(pointer)) place.setPosition(this.centre);
    drawn.applyMatrix4(place);
    drawn.userData = { pointers: [pointer] };
    const grip = new Mesh(new BoxGeometry(this.size, this.size, this.size), new MeshBasicMaterial({ visible: false }));
    grip.userData = { pointers: [pointer] };
    grip.position.setFromMatrixPosition(place);
    this.glyphs.add(drawn, grip);
  }

  private isSun(pointer: string): boolean {
    const [, part, id] = pointer.split('/');
    return part === 'lights' && this.document!.lights[id]?.kind === 'distant';
  }

  /** Outlines what is chosen, draws how far it reaches, and gives it handles. */
  private mark(): void {
    empty(this.marks);
    this.handles.detach();
    const places = this.selected.flatMap((pointer) => this.markOne(pointer) ?? []);
    if (places.length === 0 || places.length < this.selected.length) return;
    const isOne = places.length === 1;
    // Several are held in their middle; suns stand nowhere and are turned one by one.
    if (!isOne && this.selected.some((pointer) => this.isSun(pointer))) return;
    this.heldFrom = this.selected.map((pointer) => this.itemAt(pointer)!.transform);
    const middle = middleOf(this.heldFrom).map((c, a) => c - this.origin[a]) as Triple;
    const place = isOne ? places[0] : new Matrix4().makeTranslation(...middle);
    place.decompose(this.held.position, this.held.quaternion, this.held.scale);
    this.handles.setMode(this.isSun(this.selected[0]) ? 'rotate' : this.mode);
    this.handles.attach(this.held);
  }

  private itemAt(pointer: string) {
    const [, part, id] = pointer.split('/') as [string, 'objects' | 'lights' | 'cameras', string];
    return this.document?.[part][id];
  }

  /** Outlines one thing and draws its reach. @returns where handles would hold it; null: nowhere */
  private markOne(pointer: string): Matrix4 | null {
    const document = this.document;
    const item = this.itemAt(pointer);
    if (!document || !item) return null;
    const [, part, id] = pointer.split('/') as [string, 'objects' | 'lights' | 'cameras', string];
    const place = this.matrix(item.transform);
    if (part === 'objects') {
      const geometry = this.geometries.get(this.meshOf[id]);
      if (geometry) this.marks.add(this.outline(geometry, place));
    }
    if (part === 'lights' && document.lights[id].kind === 'mesh') return null;
    const { rayDistance, occlusion } = document.sheets.preview;
    const reaches = part === 'lights' ? [document.lights[id].shadowDistance, document.lights[id].reach.distance] : part === 'cameras' ? [rayDistance, occlusion.distance] : []; // prettier-ignore
    for (const radius of reaches) {
      if (radius === null) continue;
      const drawn = lines(reachLines(radius), REACH);
      // What bounds shadows and occlusion counts from lit points: about the place that is asked about, or what is looked at.
      if (part === 'lights' && this.way) drawn.position.fromArray(this.way.from.map((c, a) => c - this.origin[a]));
      else if (part === 'lights') drawn.position.copy(this.orbit.target);
      else drawn.position.setFromMatrixPosition(place);
      this.marks.add(drawn);
    }
    if (this.isSun(pointer)) place.setPosition(this.centre);
    return place;
  }

  /** Where the handles have put what they hold. */
  private movedThings(): { pointer: string; transform: Transform }[] {
    const held = this.heldTransform();
    if (this.selected.length === 1) return [{ pointer: this.selected[0], transform: held }];
    const { position, rotation } = placementOf(held);
    const middle = middleOf(this.heldFrom);
    const by = { ...NOT_MOVED, rotation, offset: position.map((c, a) => c - middle[a]) as Triple };
    return movedTogether(this.heldFrom, by).map((transform, i) => ({ pointer: this.selected[i], transform }));
  }

  private outline(geometry: BufferGeometry, place: Matrix4): LineSegments {
    const triangles = geometry.index!.count / 3;
    geometry.computeBoundingBox();
    const edges =
      triangles > MOST_EDGES ? new EdgesGeometry(boxOf(geometry)) : new EdgesGeometry(geometry, EDGE_DEGREES);
    const drawn = new LineSegments(edges, new LineBasicMaterial({ color: ACCENT, depthTest: false }));
    drawn.applyMatrix4(place);
    return drawn;
  }

  /** Where the handles hold it, in the document’s world. */
  private heldTransform(): Transform {
    this.held.updateMatrix();
    const m = this.held.matrix.toArray();
    for (let a = 0; a < 3; a++) m[12 + a] += this.origin[a];
    return m;
  }

  private pressed = new Vector2();
  private readonly press = (event: PointerEvent) => void this.pressed.set(event.clientX, event.clientY);
  private readonly release = (event: PointerEvent) => {
    const isClick = this.pressed.distanceTo(new Vector2(event.clientX, event.clientY)) < CLICK;
    if (!isClick || event.button !== 0 || this.handles.dragging) return;
    const { left, top, width, height } = this.canvas.getBoundingClientRect();
    const ray = new Raycaster();
    ray.setFromCamera(new Vector2((2 * (event.clientX - left)) / width - 1, 1 - (2 * (event.clientY - top)) / height), this.camera); // prettier-ignore
    const met = (group: Group) => ray.intersectObjects(group.children.filter((child) => !(child instanceof LineSegments)))[0]; // prettier-ignore
    this.events.picked(
      pointerOf(met(this.glyphs) ?? met(this.shapes)),
      event.ctrlKey || event.metaKey || event.shiftKey,
    );
  };

  /** Draws once before the next frame of the screen, however often it is asked for. */
  private draw(): void {
    if (this.isWaiting) return;
    this.isWaiting = true;
    requestAnimationFrame(() => {
      this.isWaiting = false;
      if (this.isStale) this.rebuild();
      this.camera.near = this.isCut ? Math.max(NEAR, CUT * this.camera.position.distanceTo(this.orbit.target)) : NEAR;
      this.camera.updateProjectionMatrix();
      this.renderer.render(this.scene, this.camera);
    });
  }
}

const pointerOf = (hit: Intersection | undefined): string | null =>
  (hit?.object.userData as { pointers?: string[] } | undefined)?.pointers?.[hit!.instanceId ?? 0] ?? null;

function boxOf(geometry: BufferGeometry): BoxGeometry {
  const { min, max } = geometry.boundingBox!;
  const box = new BoxGeometry(max.x - min.x, max.y - min.y, max.z - min.z);
  return box.translate((min.x + max.x) / 2, (min.y + max.y) / 2, (min.z + max.z) / 2);
}
