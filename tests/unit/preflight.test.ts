/** Each check on a scene that is right, and on that scene with one fault planted: told once, with its offender. */
import { expect } from 'chai';
import { emptyPolyMesh } from '../../core/data/poly-mesh.ts';
import { translation } from '../../core/data/transform.ts';
import { defaultMap, defaultSheet } from '../../core/document/defaults.ts';
import type { MapSpec } from '../../core/document/schema.ts';
import { applyPatch, invertPatch } from '../../core/document/patch.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import { writePng } from '../../core/formats/png.ts';
import { readScene } from '../../core/formats/scene-readers.ts';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import type { SourceScene } from '../../core/formats/source-scene.ts';
import { fromShot } from '../../core/intake/from-shot.ts';
import { defaultProfile, parseProfile, type Profile } from '../../core/intake/preflight/profile.ts';
import { CHECKS } from '../../core/intake/preflight/registry.ts';
import { REPORTS } from '../../core/intake/preflight/report.ts';
import { overall, runPreflight } from '../../core/intake/preflight/run.ts';
import { overlaps } from '../../core/intake/preflight/uv-overlaps.ts';
import { validateDocument } from '../../core/document/validate.ts';
import { toShot } from '../../core/intake/to-shot.ts';
import { smallShot } from '../api/small-shot.ts';

const YARD = `#usda 1.0
(metersPerUnit = 1 upAxis = "Y" framesPerSecond = 24 startTimeCode = 1001 endTimeCode = 1048
 renderSettingsPrimPath = "/Render/main" subLayers = [@light.usda@])
def Xform "yard" {
  def Mesh "hive" {
    point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0), (1, 1, 0), (0, 0, 1), (1, 0, 1), (0, 1, 1), (1, 1, 1)]
    int[] faceVertexCounts = [4, 4, 4, 4, 4, 4]
    int[] faceVertexIndices = [0, 2, 3, 1, 4, 5, 7, 6, 0, 1, 5, 4, 2, 6, 7, 3, 0, 4, 6, 2, 1, 3, 7, 5]
    uniform token subdivisionScheme = "none"
    texCoord2f[] primvars:st = [(0, 0), (1, 0), (0, 1), (1, 1), (0.2, 0.2), (0.8, 0.2), (0.2, 0.8), (0.8, 0.8)] (interpolation = "vertex")
    rel material:binding = </yard/straw>
  }
  def Mesh "lid" {
    point3f[] points = [(0, 2, 0), (1, 2, 0), (1, 2, 1), (0, 2, 1)]
    int[] faceVertexCounts = [4]
    int[] faceVertexIndices = [3, 2, 1, 0]
    uniform token subdivisionScheme = "none"
    texCoord2f[] primvars:st = [(0, 0), (1, 0), (1, 1), (0, 1)] (interpolation = "vertex")
    rel material:binding = </yard/straw>
  }
  def Camera "wide" { float2 clippingRange = (0.1, 1000) }
  def Material "straw" {
    token outputs:surface.connect = </yard/straw/s.outputs:surface>
    def Shader "s" { uniform token info:id = "UsdPreviewSurface"
      color3f inputs:diffuseColor.connect = </yard/straw/t.outputs:rgb>
      float inputs:roughness.connect = </yard/straw/r.outputs:g>
      token outputs:surface }
    def Shader "t" { uniform token info:id = "UsdUVTexture"
      asset inputs:file = @tex/straw.png@
      token inputs:sourceColorSpace = "sRGB"
      float3 outputs:rgb }
    def Shader "r" { uniform token info:id = "UsdUVTexture"
      asset inputs:file = @tex/rough.png@
      token inputs:sourceColorSpace = "raw"
      float outputs:g }
  }
}
def Scope "Render" {
  def RenderSettings "main" { uniform int2 resolution = (1920, 1080)
    uniform float pixelAspectRatio = 1
    rel camera = </yard/wide>
    rel products = </Render/p> }
  def RenderProduct "p" { token productName = "out/yard.exr" }
}`;
const png = writePng(2, 2, new Uint8Array(12).fill(90));
const encoder = new TextEncoder();
const yard = (): Promise<SourceScene> =>
  readScene(
    'yard.usda',
    filesInMemory(
      new Map([
        ['yard.usda', encoder.encode(YARD)],
        [
          'light.usda',
          encoder.encode('#usda 1.0\n(metersPerUnit = 1)\ndef DistantLight "sun" {}\ndef DomeLight "sky" {}'),
        ],
        ['tex/straw.png', png],
        ['tex/rough.png', png],
      ]),
    ),
  );
const SHOW: Profile = {
  ...defaultProfile(), frameRate: 24, firstFrame: 1001, lastFrame: 1048, width: 1920, height: 1080, cameras: 1,
  metresPerUnit: 1, renderer: 'Heron', extensions: [],
  thresholds: { 'transform-left-on-object': { caution: 1, stop: null }, 'one-sided-texture': { caution: 1, stop: null }, 'ungrouped-object': { caution: 1, stop: null } },
}; // prettier-ignore

const node = (scene: SourceScene, path: string) => scene.nodes.find((n) => n.path === path)!;
const meshOf = (scene: SourceScene, path: string) => scene.meshes[node(scene, path).mesh];
const add = (scene: SourceScene, from: string, to: string, change: object = {}) => {
  const own = node(scene, from);
  scene.nodes.push({
    ...own,
    path: to,
    name: to.slice(to.lastIndexOf('/') + 1),
    world: translation(5, 0, 0),
    ...change,
  });
};

/** Fault, what is planted, the offender, and what else it must bring with it. */
const FAULTS: [string, (scene: SourceScene) => void, string, string[]?][] = [
  ['frame-rate', (s) => { s.settings.frameRate = 25; }, 'yard.usda'],
  ['frame-span', (s) => { s.settings.lastFrame = 1040; }, 'yard.usda'],
  ['motion-static', (s) => { node(s, '/yard/hive').moves = true; }, '/yard/hive'],
  ['visibility-changes', (s) => { node(s, '/yard/lid').visibilityChanges = true; }, '/yard/lid'],
  ['picture-size', (s) => { s.settings.width = 1280; }, 'yard.usda'],
  ['pixel-aspect', (s) => { s.settings.pixelAspect = 2; }, 'yard.usda'],
  ['camera-count', (s) => { s.cameras = []; }, 'yard.usda'],
  ['camera-clip', (s) => { add(s, '/yard/hive', '/yard/far'); node(s, '/yard/far').world = translation(0, 0, -3000); }, 'wide'],
  ['output-missing', (s) => { s.settings.output = null; }, 'yard.usda'],
  ['view-transform', (s) => { s.settings.viewTransform = 'log'; }, 'yard.usda'],
  ['texture-missing', (s) => { s.images[0].bytes = null; }, 'tex/straw.png'],
  ['file-missing', (s) => { s.references[0].resolved = null; s.references[0].state = 'missing'; }, 'light.usda'],
  ['file-outside-roots', (s) => { s.references[1].resolved = '../other/straw.png'; }, 'tex/straw.png'],
  ['reference-outside-roots', (s) => { s.references[0].resolved = '../light.usda'; }, 'light.usda'],
  ['file-absolute', (s) => { s.references[1].path = 'C:\\show\\straw.png'; }, 'C:\\show\\straw.png'],
  ['reference-unused', (s) => { s.references[0].used = false; }, 'light.usda'],
  ['lights-missing', (s) => { s.lights = []; s.environment = null; }, 'yard.usda', ['environment-missing']],
  ['environment-missing', (s) => { s.environment = null; }, 'yard.usda'],
  ['tiny-bright-emitter', (s) => { s.materials.push({ ...s.materials[0], name: 'flame', textures: [], spec: { ...s.materials[0].spec, emission: [5000, 4000, 2000] } }); add(s, '/yard/hive', '/yard/wick', { world: [0.004, 0, 0, 0, 0, 0.004, 0, 0, 0, 0, 0.004, 0, 0, 5, 0, 1], parts: [{ material: s.materials.length - 1, faces: null }] }); }, '/yard/wick'],
  ['scene-units', (s) => { s.metresPerUnit = 0.01; }, 'yard.usda'],
  ['scene-scale', (s) => { for (const n of s.nodes) n.world = n.world.map((v, i) => (i % 4 < 3 && i < 12 ? v * 1e-4 : v)); }, 'yard.usda'],
  ['far-from-origin', (s) => { node(s, '/yard/hive').world = translation(0, 0, 5000); }, '/yard/hive'],
  ['offset-in-vertices', (s) => { const { poly } = meshOf(s, '/yard/hive'); poly.points = poly.points.map((v, i) => (i % 3 === 0 ? v * 0.001 + 4000 : v)); node(s, '/yard/hive').world = translation(-4000, 0, 0); }, '/yard/hive', ['pivot-far']],
  ['pivot-far', (s) => { const { poly } = meshOf(s, '/yard/lid'); poly.points = poly.points.map((v, i) => (i % 3 === 0 ? v + 512 : v)); node(s, '/yard/lid').world = translation(-512, 0, 0); }, '/yard/lid'],
  ['position-not-finite', (s) => { meshOf(s, '/yard/lid').poly.points[4] = NaN; }, '/yard/lid'],
  ['transform-left-on-object', (s) => { node(s, '/yard/lid').local = [1000, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]; }, '/yard/lid'],
  ['transform-negative', (s) => { node(s, '/yard/lid').world = [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]; }, '/yard/lid'],
  ['transform-zero', (s) => { node(s, '/yard/lid').world = [1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]; }, '/yard/lid'],
  ['transform-sheared', (s) => { node(s, '/yard/lid').world = [1, 0, 0, 0, 0.5, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]; }, '/yard/lid'],
  ['ngon', (s) => { const { poly } = meshOf(s, '/yard/lid'); Object.assign(poly, { points: Float32Array.from([...poly.points, 0.5, 2, -1]), faceSizes: Uint32Array.of(5), corners: Uint32Array.of(3, 2, 1, 4, 0) }); poly.uvs[0].indices = Uint32Array.of(3, 2, 1, 0, 0); }, '/yard/lid'],
  ['non-manifold-edge', (s) => { const { poly } = meshOf(s, '/yard/hive'); addFace(poly, [0, 1, 6]); }, '/yard/hive'],
  ['open-edge', (s) => { s.materials[0].spec.transmission = 1; }, '/yard/lid'],
  ['degenerate-face', (s) => { const { poly } = meshOf(s, '/yard/lid'); addFace(poly, [0, 0, 1]); }, '/yard/lid'],
  ['duplicate-face', (s) => { const { poly } = meshOf(s, '/yard/lid'); addFace(poly, [0, 3, 2, 1]); }, '/yard/lid'],
  ['coincident-instances', (s) => { add(s, '/yard/lid', '/yard/lid too', { world: node(s, '/yard/lid').world }); }, '/yard/lid too'],
  ['reversed-normals', (s) => { meshOf(s, '/yard/hive').poly.corners.reverse(); meshOf(s, '/yard/hive').poly.uvs[0].indices.reverse(); }, '/yard/hive'],
  ['mixed-winding', (s) => { meshOf(s, '/yard/hive').poly.corners.subarray(0, 4).reverse(); }, '/yard/hive'],
  ['bad-normals', (s) => { meshOf(s, '/yard/lid').poly.normals = { name: 'normals', values: Float32Array.of(0, 0, 0), indices: new Uint32Array(4) }; }, '/yard/lid'],
  ['live-operations', (s) => { node(s, '/yard/lid').live = ['skin']; }, '/yard/lid'],
  ['material-missing', (s) => { node(s, '/yard/lid').parts = [{ material: -1, faces: null }]; }, '/yard/lid'],
  ['material-placeholder', (s) => { s.materials[0].name = 'material.001'; }, 'material.001'],
  ['texture-colour-space', (s) => { s.materials[0].textures[0].colourSpace = 'linear'; }, 'tex/straw.png'],
  ['texture-bit-depth', (s) => { s.materials[0].textures[1].slot = 'bump'; }, 'tex/rough.png'],
  ['one-sided-texture', (s) => { node(s, '/yard/lid').facing = 'front'; }, '/yard/lid'],
  ['uv-missing', (s) => { meshOf(s, '/yard/lid').poly.uvs = []; }, '/yard/lid'],
  ['uv-set-without-data', (s) => { meshOf(s, '/yard/lid').poly.uvs[0].values.fill(0); }, '/yard/lid'],
  ['uv-out-of-tile', (s) => { for (const t of s.materials[0].textures) t.wrap = 'clamp'; meshOf(s, '/yard/lid').poly.uvs[0].values[2] = 3; }, '/yard/lid'],
  ['tile-missing', (s) => { for (const image of s.images) image.tiles = [1001, 1002].map((number) => ({ number, path: `tex/straw.${number}.png`, bytes: png })); meshOf(s, '/yard/lid').poly.uvs[0].values[2] = 2.5; }, '/yard/lid'],
  ['uv-overlap', (s) => { const { poly } = meshOf(s, '/yard/lid'); addFace(poly, [3, 2, 1, 0]); poly.normals = null; Object.assign(poly.uvs[0], twoIslands(0.3)); }, '/yard/lid', ['duplicate-face']],
  ['uv-stretched', (s) => { const { values } = meshOf(s, '/yard/lid').poly.uvs[0]; meshOf(s, '/yard/lid').poly.uvs[0].values = values.map((value, i) => (i % 2 ? value * 0.05 : value)); }, '/yard/lid'],
  ['name-placeholder', (s) => { node(s, '/yard/lid').name = 'Cube.003'; }, '/yard/lid'],
  ['name-duplicate', (s) => { add(s, '/yard/lid', '/yard/lid#2', { name: 'lid' }); }, '/yard/lid#2'],
  ['ungrouped-object', (s) => { node(s, '/yard/lid').parent = -1; }, '/yard/lid'],
  ['object-hidden', (s) => { node(s, '/yard/lid').visible = false; }, '/yard/lid'],
  ['settings-blank', (s) => { Object.assign(s.settings, { width: null, height: null, camera: null }); }, 'yard.usda'],
  ['target-mismatch', (s) => { s.extensions = ['VENDOR_sparkle']; }, 'VENDOR_sparkle'],
]; // prettier-ignore

/** Two quads half a tile wide, the second one moved to the right of where the first one lies. */
function twoIslands(right: number): { values: Float32Array; indices: Uint32Array } {
  const quad = (x: number) => [x, 0.1, x + 0.5, 0.1, x + 0.5, 0.6, x, 0.6];
  return { values: Float32Array.from([...quad(0.1), ...quad(0.1 + right)]), indices: Uint32Array.from({ length: 8 }, (_, i) => i) }; // prettier-ignore
}

function addFace(poly: SourceScene['meshes'][number]['poly'], corners: number[]): void {
  poly.faceSizes = Uint32Array.from([...poly.faceSizes, corners.length]);
  poly.corners = Uint32Array.from([...poly.corners, ...corners]);
  for (const uv of poly.uvs) uv.indices = Uint32Array.from([...uv.indices, ...corners]);
}

describe('Islands of UVs', () => {
  const of = (right: number) => overlaps({ ...emptyPolyMesh(), faceSizes: Uint32Array.of(4, 4) }, { name: 'st', ...twoIslands(right) }); // prettier-ignore

  it('overlap by the share that both cover, and not where one lies on the other as a whole or beside it', () => {
    // 0.5 wide, 0.3 apart: 0.2 of 0.5 is covered twice.
    const [{ share, at }] = of(0.3);
    expect(share).to.be.closeTo(0.4, 0.02);
    expect(at[0]).to.be.within(0.4, 0.6);
    expect([of(0), of(0.5), of(0.01), of(0.3 + 0.4)]).to.deep.equal([[], [], [], []]);
  });
});

describe('Preflight', () => {
  const told = (scene: SourceScene, profile = SHOW) =>
    runPreflight(scene, profile, null).filter(({ state }) => state === 'stop' || state === 'caution');

  it('has nothing to say of a scene that is right', async () => {
    const scene = await yard();
    for (const n of scene.nodes) n.facing = 'both';
    scene.settings.viewTransform = null;
    expect(scene.notUnderstood).to.deep.equal([]);
    expect(told(scene).map(({ id, offenders }) => [id, offenders])).to.deep.equal([]);
  });

  for (const [id, plant, offender, more = []] of FAULTS)
    it(`tells ${id} once, with its offender`, async () => {
      const scene = await yard();
      for (const n of scene.nodes) n.facing = 'both';
      plant(scene);
      const profile = id === 'view-transform' ? { ...SHOW, viewTransform: 'film' } : SHOW;
      const results = told(scene, profile);
      expect(results.map((result) => result.id).sort()).to.deep.equal([id, ...more].sort());
      const { offenders, expected, found } = results.find((result) => result.id === id)!;
      expect(offenders.map(({ object }) => object)).to.deep.equal([offender]);
      expect(expected).to.not.equal('');
      expect(found).to.not.equal('');
    });

  it('tells images that are there twice or of one colour where a profile asks for it', async () => {
    const scene = await yard();
    for (const n of scene.nodes) n.facing = 'both';
    const asked = (id: string) => ({ ...SHOW, thresholds: { ...SHOW.thresholds, [id]: { caution: 1, stop: null } } });
    const offenders = (id: string) => told(scene, asked(id)).map((result) => [result.id, result.offenders.map(({ object }) => object)]); // prettier-ignore
    // Both images of the yard are the same file; two texels by two are too few to be unpacked.
    expect(offenders('texture-duplicate')).to.deep.equal([['texture-duplicate', ['tex/rough.png']]]);
    expect(offenders('texture-constant')).to.deep.equal([]);
    scene.images[1].bytes = writePng(64, 64, new Uint8Array(3 * 64 * 64).fill(90));
    scene.images[0].bytes = writePng(
      64,
      64,
      Uint8Array.from({ length: 3 * 64 * 64 }, (_, i) => (i === 3000 ? 91 : 90)),
    );
    expect(offenders('texture-duplicate')).to.deep.equal([]);
    const read = told({ ...scene }, asked('texture-constant'));
    expect(read.map(({ offenders: own }) => own.map(({ object }) => object))).to.deep.equal([['tex/rough.png']]);
  });

  it('weighs by thresholds: every count can be cautioned and stopped', async () => {
    const scene = await yard();
    for (const n of scene.nodes) n.facing = 'both';
    for (const id of ['triangle-count', 'object-count', 'texture-count', 'texture-memory', 'lights-with-shadows']) {
      const thresholds = (caution: number | null, stop: number | null) => ({ ...SHOW, thresholds: { ...SHOW.thresholds, [id]: { caution, stop } } }); // prettier-ignore
      expect(told(scene, thresholds(1, null)).map((r) => [r.id, r.state])).to.deep.equal([[id, 'caution']]);
      expect(told(scene, thresholds(1, 1)).map((r) => [r.id, r.state])).to.deep.equal([[id, 'stop']]);
    }
    add(scene, '/yard/lid', '/yard/second');
    const instances = { ...SHOW, thresholds: { ...SHOW.thresholds, 'instance-count': { caution: 2, stop: null } } };
    expect(told(scene, instances).map(({ id, found }) => [id, found])).to.deep.equal([
      ['instance-count', '2 instances'],
    ]);
  });

  it('has a fault planted for each of its checks, here or on a shot', () => {
    const planted = new Set(FAULTS.map(([id]) => id));
    const elsewhere = ['triangle-count', 'instance-count', 'object-count', 'texture-count', 'texture-memory', 'texture-duplicate', 'texture-constant', 'lights-with-shadows', 'light-off', 'sheet-drift', 'limit-overridden', 'samples-out-of-range', 'settings-at-default']; // prettier-ignore
    expect(CHECKS.map(({ id }) => id).filter((id) => !planted.has(id))).to.deep.equal(elsewhere);
    expect(new Set(CHECKS.map(({ id }) => id)).size).to.equal(CHECKS.length);
  });

  it('knows rooms from bodies turned inside out, and what a closed one needs from around', async () => {
    const scene = await yard();
    for (const n of scene.nodes) n.facing = 'both';
    FAULTS.find(([id]) => id === 'reversed-normals')![1](scene);
    scene.environment = null;
    node(scene, '/yard/wide').world = translation(0.5, 0.5, 0.5);
    expect(
      told(scene).map(({ id }) => id),
      'the camera stands inside',
    ).to.deep.equal([]);
    scene.lights = [];
    expect(
      told(scene).map(({ id }) => id),
      'nothing lights it',
    ).to.include('environment-missing');
  });

  it('tells lights that are off where another shines, and scenes far away, each with a repair that is taken back', async () => {
    const { document, files } = await smallShot('OFF', { samples: 16 });
    const look = async (doc: typeof document) =>
      runPreflight(await fromShot(doc, 1, filesInMemory(files)), defaultProfile(), doc);
    const shot = structuredClone(document);
    shot.lights.lamp = { ...shot.lights.window, name: 'lamp', hidden: true };
    const away = (transform: number[]) => transform.map((v, i) => (i === 12 ? v + 90_000 : v));
    for (const part of [shot.objects, shot.lights, shot.cameras] as Record<string, { transform: number[] }>[])
      for (const one of Object.values(part)) one.transform = away(one.transform);
    const results = await look(shot);
    for (const id of ['light-off', 'far-from-origin']) {
      const { state, repair } = results.find((result) => result.id === id)!;
      expect(state, id).to.equal('caution');
      const cured = applyPatch(shot, repair!.patch);
      validateDocument(cured, id);
      expect((await look(cured)).find((result) => result.id === id)!.state, id).to.equal('clear');
      expect(canonicalText(applyPatch(cured, invertPatch(shot, repair!.patch)))).to.equal(canonicalText(shot));
    }
  }); // prettier-ignore

  it('names the tile that a document lists and that is not there, beside an image that is missing as a whole', async () => {
    const { document, files } = await smallShot('TILE', { samples: 16 });
    const material = Object.values(document.materials)[0];
    document.textures.wax = { file: 'textures/wax.<UDIM>.png', colourSpace: 'linear', tiles: [1001, 1002] };
    document.textures.lid = { file: 'textures/lid.png', colourSpace: 'srgb' };
    for (const id of ['wax', 'lid']) document.maps[id] = { ...defaultMap('image'), texture: id } as MapSpec;
    Object.assign(material, { bumpMap: 'wax', baseColourMap: 'lid' });
    files.set('textures/wax.1001.png', png);
    const results = runPreflight(await fromShot(document, 1, filesInMemory(files)), defaultProfile(), document);
    const { state, offenders } = results.find(({ id }) => id === 'texture-missing')!;
    expect(state).to.equal('stop');
    expect(offenders.map(({ object }) => object)).to.deep.equal(['textures/lid.png', 'textures/wax.1002.png']);
  });

  it('leaves a file alone that may have the alpha which another one has lost, and takes out what else nothing uses', async () => {
    const { document, files } = await smallShot('SPARE', { samples: 16 });
    const material = Object.values(document.materials)[0];
    for (const id of ['lid', 'lid_alpha', 'old']) {
      document.textures[id] = { file: `textures/${id}.png`, colourSpace: 'srgb' };
      files.set(`textures/${id}.png`, png);
    }
    document.maps.lid = { ...defaultMap('image'), texture: 'lid' } as MapSpec;
    material.baseColourMap = 'lid';
    const results = runPreflight(await fromShot(document, 1, filesInMemory(files)), defaultProfile(), document);
    const { offenders, repair } = results.find(({ id }) => id === 'reference-unused')!;
    expect(offenders.map(({ object }) => object)).to.deep.equal(['textures/old.png']);
    expect(Object.keys(applyPatch(document, repair!.patch).textures)).to.deep.equal(['lid', 'lid_alpha']);
  });

  it('repairs sheets and colour spaces of a shot by patches that can be taken back', async () => {
    const { document, files } = await smallShot('PRE', { samples: 16 });
    const look = async (doc: typeof document) =>
      runPreflight(await fromShot(doc, 1, filesInMemory(files)), defaultProfile(), doc);
    document.sheets.final.limits.transmission = 3;
    document.sheets.preview.limits.transmission = 20;
    document.sheets.preview.limits.overall = 12;
    document.sheets.preview.samples = 65536;
    const before = await look(document);
    const of = (results: typeof before, id: string) => results.find((result) => result.id === id)!;
    expect(of(before, 'sheet-drift').offenders.map(({ object }) => object)).to.include(
      'final sheet /limits/transmission',
    );
    expect(of(before, 'limit-overridden').offenders[0].detail).to.equal('transmission 20 needs an overall limit of 21; it is 12'); // prettier-ignore
    expect(of(before, 'samples-out-of-range').offenders[0].object).to.equal('preview sheet');
    for (const id of ['limit-overridden', 'sheet-drift']) {
      const { repair } = of(await look(document), id);
      const cured = applyPatch(document, repair!.patch);
      expect(canonicalText(applyPatch(cured, invertPatch(document, repair!.patch)))).to.equal(canonicalText(document));
      Object.assign(document, cured);
    }
    // The first repair changed what the second one carries over; once more makes both clear.
    const last = of(await look(document), 'limit-overridden');
    if (last.repair) Object.assign(document, applyPatch(document, last.repair.patch));
    const after = await look(document);
    expect([of(after, 'sheet-drift').state, of(after, 'limit-overridden').state]).to.deep.equal(['clear', 'clear']);
    document.sheets.final = { ...defaultSheet(), width: 640, height: 360 };
    expect(of(await look(document), 'settings-at-default').state).to.equal('caution');
  });

  it('sees a shot of ours as it saw the scene it was made of: polygons, links, textures', async () => {
    const made = await toShot(await yard());
    const source = await fromShot(made.document, 1, filesInMemory(made.files));
    const hive = source.nodes.find(({ path }) => path === '/hive')!;
    expect([...source.meshes[hive.mesh].poly.faceSizes]).to.deep.equal([4, 4, 4, 4, 4, 4]);
    const results = runPreflight(source, defaultProfile(), made.document);
    expect(results.filter(({ state }) => state === 'stop').map(({ id, offenders }) => [id, offenders])).to.deep.equal(
      [],
    );
  });

  it('follows every file that a shot of ours names: coats of other files, and what nothing wears', async () => {
    const { document, files } = await smallShot('CHAIN');
    document.coats.varnish = { kind: 'shared', file: 'library/coats.json', item: 'varnish', override: {} };
    document.textures.spare = { file: 'textures/spare.png', colourSpace: 'srgb' };
    files.set('textures/spare.png', png);
    const source = await fromShot(document, 1, filesInMemory(files));
    const stateOf = (path: string) => source.references.find((reference) => reference.path === path)!;
    expect(stateOf('library/coats.json')).to.include({
      kind: 'fragments',
      state: 'missing',
      neededBy: '/coats/varnish',
    });
    expect(stateOf('textures/spare.png')).to.include({ kind: 'image', state: 'ok', used: false });
    const results = runPreflight(source, defaultProfile(), document);
    const of = (id: string) => results.find((result) => result.id === id)!.offenders.map(({ object }) => object);
    expect([of('file-missing'), of('reference-unused')]).to.deep.equal([
      ['library/coats.json'],
      ['textures/spare.png'],
    ]);
  });

  it('writes reports that name each offender, and keep what is text text', async () => {
    const scene = await yard();
    for (const n of scene.nodes) n.facing = 'both';
    node(scene, '/yard/lid').path = '=cmd|<b>"lid"';
    node(scene, '=cmd|<b>"lid"').visible = false;
    const results = runPreflight(scene, SHOW, null);
    expect(overall(results)).to.equal('caution');
    const head = { scene: 'yard.usda', profile: SHOW.name, date: '2026-01-01' };
    expect(REPORTS.csv(results, head)).to.include(`"'=cmd|<b>""lid""",is hidden,1`);
    expect(REPORTS.html(results, head)).to.include('=cmd|&lt;b&gt;&quot;lid&quot;');
    expect(REPORTS.md(results, head)).to.include('=cmd\\|\\<b\\>"lid": is hidden');
    expect(JSON.parse(REPORTS.json(results, head)).checks.length).to.equal(CHECKS.length);
  });

  it('refuses profiles that are none, by place', () => {
    const message = (value: unknown) => {
      try {
        parseProfile(JSON.stringify(value), 'show.json');
        return 'taken';
      } catch (error) {
        return (error as Error).message;
      }
    };
    const base = { schema: 'dusting.preflight/1', name: 'x' };
    expect(message(base)).to.equal('taken');
    expect(message({ ...base, frameRate: -1 })).to.match(/\/frameRate is -1/);
    expect(message({ ...base, placeholderNames: ['('] })).to.match(
      /\/placeholderNames\/0 is "\(", expected a regular expression/,
    );
    expect(message({ ...base, schema: 'other' })).to.match(/\/schema/);
  });
});
