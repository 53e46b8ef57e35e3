/** USD text: schemas and composition as OpenUSD documents them; places of meshes as three.js's own loader finds them. */
import { expect } from 'chai';
import { USDLoader } from 'three/addons/loaders/USDLoader.js';
import { Vector3, type Mesh as ThreeMesh, type Object3D } from 'three';
import type { PolyMesh } from '../../core/data/poly-mesh.ts';
import { readScene } from '../../core/formats/scene-readers.ts';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import type { SourceNode, SourceScene } from '../../core/formats/source-scene.ts';

const read = (text: string, more: Record<string, string> = {}): Promise<SourceScene> => {
  const files = Object.entries({ 'yard.usda': `#usda 1.0\n${text}`, ...more });
  const encoder = new TextEncoder();
  return readScene(
    'yard.usda',
    filesInMemory(new Map(files.map(([path, content]) => [path, encoder.encode(content)]))),
  );
};
const refusal = (text: string, more = {}): Promise<string> =>
  read(text, more).then(
    () => 'it was read',
    (error: Error) => `${error.name}: ${error.message}`,
  );
const nodeAt = (scene: SourceScene, path: string): SourceNode => {
  const node = scene.nodes.find((n) => n.path === path);
  expect(node, `${path} among ${scene.nodes.map((n) => n.path).join(' ')}`).to.not.equal(undefined);
  return node!;
};
const meshAt = (scene: SourceScene, path: string): PolyMesh => scene.meshes[nodeAt(scene, path).mesh].poly;
const place = ({ world }: SourceNode, p: number[] = [0, 0, 0]): number[] =>
  [0, 1, 2].map((a) => world[a] * p[0] + world[4 + a] * p[1] + world[8 + a] * p[2] + world[12 + a]);
const near = (found: number[], wanted: number[], by = 1e-9) =>
  wanted.forEach((v, i) => expect(found[i], `${found.join(' ')} against ${wanted.join(' ')}`).to.be.closeTo(v, by));

const quad = (more = '') => `def Mesh "slab" ${more.startsWith('(') ? more.slice(0, more.indexOf(')') + 1) : ''} {
  point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0), (0, 1, 0)]
  int[] faceVertexCounts = [4]
  int[] faceVertexIndices = [0, 1, 2, 3]
  uniform token subdivisionScheme = "none"
  ${more.startsWith('(') ? more.slice(more.indexOf(')') + 1) : more}
}`;

describe('USD scenes', () => {
  it('keep polygons, scheme, creases and UVs of every corner', async () => {
    const scene = await read(`(metersPerUnit = 1)
def Mesh "comb" {
  point3f[] points = [(0, 0, 0), (1, 0, 0), (2, 0, 0), (0, 1, 0), (1, 1, 0), (2, 1, 0)]
  int[] faceVertexCounts = [4, 3]
  int[] faceVertexIndices = [0, 1, 4, 3, 1, 2, 4]
  int[] creaseIndices = [0, 1, 2, 3, 4]
  int[] creaseLengths = [3, 2]
  float[] creaseSharpnesses = [2.5, 10]
  texCoord2f[] primvars:st = [(0, 0), (1, 0), (1, 1), (0, 1), (0.5, 0.5)] (interpolation = "faceVarying")
  int[] primvars:st:indices = [0, 1, 2, 3, 4, 1, 2]
  texCoord2f[] primvars:second = [(0, 0), (1, 0), (2, 0), (0, 1), (1, 1), (2, 1)] (interpolation = "vertex")
}`);
    const poly = meshAt(scene, '/comb');
    expect([...poly.faceSizes]).to.deep.equal([4, 3]);
    expect(poly.subdivision, 'the scheme that a mesh has without a word').to.equal('catmull-clark');
    expect([...poly.creases.edges]).to.deep.equal([0, 1, 1, 2, 3, 4]);
    expect([...poly.creases.sharpness]).to.deep.equal([2.5, 2.5, 10]);
    expect(poly.uvs.map(({ name }) => name)).to.deep.equal(['st', 'second']);
    expect([...poly.uvs[0].indices]).to.deep.equal([0, 1, 2, 3, 4, 1, 2]);
    expect([...poly.uvs[1].indices]).to.deep.equal([0, 1, 4, 3, 1, 2, 4]);
    expect(poly.ends, 'the rules that a mesh has without a word').to.deep.equal({ boundary: 'edgeAndCorner', uvs: 'cornersPlus1' }); // prettier-ignore
    expect(nodeAt(scene, '/comb').live).to.deep.equal([]);
  });

  it('place things where three.js places them: every transform operation, in order', async () => {
    const text = `#usda 1.0\n(metersPerUnit = 1\n upAxis = "Y")
def Xform "yard" {
  double3 xformOp:translate = (1, 2, 3)
  float3 xformOp:rotateXYZ = (10, 20, 30)
  float3 xformOp:scale = (2, 3, 4)
  uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:rotateXYZ", "xformOp:scale"]
  def Xform "row" {
    matrix4d xformOp:transform = ( (0, 1, 0, 0), (-1, 0, 0, 0), (0, 0, 1, 0), (5, 6, 7, 1) )
    uniform token[] xformOpOrder = ["xformOp:transform"]
    ${quad()}
  }
}`;
    const scene = await readScene('a.usda', filesInMemory(new Map([['a.usda', new TextEncoder().encode(text)]])));
    const slab = nodeAt(scene, '/yard/row/slab');
    const root = (new USDLoader() as unknown as { parse(text: string): Object3D }).parse(text);
    root.updateMatrixWorld(true);
    const theirs: string[] = [];
    root.traverse((child) => {
      const position = (child as ThreeMesh).geometry?.attributes.position;
      for (let i = 0; i < (position?.count ?? 0); i++) {
        const p = new Vector3().fromBufferAttribute(position, i).applyMatrix4(child.matrixWorld);
        theirs.push(
          p
            .toArray()
            .map((v) => v.toFixed(4))
            .join(' '),
        );
      }
    });
    const mine = [[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0]].map((p) => place(slab, p).map((v) => v.toFixed(4)).join(' ')); // prettier-ignore
    expect([...new Set(theirs)].sort()).to.deep.equal([...mine].sort());
  });

  it('are in metres with +Y up, whatever the file’s unit and axis; without a unit it is a centimetre', async () => {
    const move = 'double3 xformOp:translate = (100, 200, 300)\nuniform token[] xformOpOrder = ["xformOp:translate"]';
    near(place(nodeAt(await read(`(upAxis = "Z")\ndef Xform "a" {${move}}`), '/a')), [1, 3, -2]);
    near(place(nodeAt(await read(`(metersPerUnit = 0.001)\ndef Xform "a" {${move}}`), '/a')), [0.1, 0.2, 0.3]);
  });

  it('undo an operation that is inverted, and start anew where the stack is reset', async () => {
    const scene = await read(`(metersPerUnit = 1)
def Xform "a" {
  double3 xformOp:translate = (1, 0, 0)
  double3 xformOp:translate:pivot = (0, 5, 0)
  float xformOp:rotateZ = 90
  uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:translate:pivot", "xformOp:rotateZ", "!invert!xformOp:translate:pivot"]
  def Xform "free" {
    double3 xformOp:translate = (0, 0, 7)
    uniform token[] xformOpOrder = ["!resetXformStack!", "xformOp:translate"]
  }
}`);
    near(place(nodeAt(scene, '/a')), [6, 5, 0]);
    near(place(nodeAt(scene, '/a/free')), [0, 0, 7]);
  });

  it('are put together from references, payloads, sublayers and variants, the stronger one winning', async () => {
    const scene = await read(
      `(subLayers = [@light.usda@]
  metersPerUnit = 1)
def "left" (prepend references = @props/hive.usda@) {
  over "lid" { double xformOp:rotateY = 30
    uniform token[] xformOpOrder = ["xformOp:rotateY"] }
}
def "right" (payload = @props/hive.usda@</hive>
  variants = { string state = "open" }) {}
over "lamp" { float inputs:intensity = 7 }`,
      {
        'light.usda': '#usda 1.0\ndef SphereLight "lamp" { float inputs:intensity = 2\n float inputs:radius = 0.5 }',
        'props/hive.usda': `#usda 1.0\n(defaultPrim = "hive")
def Xform "hive" (variants = { string state = "shut" } prepend variantSets = "state") {
  ${quad('rel material:binding = </hive/wood>')}
  def Xform "lid" {}
  def Material "wood" { token outputs:surface.connect = </hive/wood/s.outputs:surface>
    def Shader "s" { uniform token info:id = "UsdPreviewSurface"
      color3f inputs:diffuseColor = (0.5, 0.25, 0.125)
      token outputs:surface } }
  variantSet "state" = {
    "shut" { def Xform "latch" {} }
    "open" { over "lid" { token visibility = "invisible" } }
  }
}`,
      },
    );
    expect(scene.notUnderstood).to.deep.equal([]);
    expect(nodeAt(scene, '/left/lid').visible).to.equal(true);
    expect(nodeAt(scene, '/left/lid').local[0]).to.be.closeTo(Math.cos(Math.PI / 6), 1e-9);
    expect(nodeAt(scene, '/right/lid').visible).to.equal(false);
    expect(scene.nodes.filter(({ name }) => name === 'latch').map(({ path }) => path)).to.deep.equal(['/left/latch']);
    expect(nodeAt(scene, '/left/slab').mesh, 'one mesh for both').to.equal(nodeAt(scene, '/right/slab').mesh);
    const [part] = nodeAt(scene, '/right/slab').parts;
    expect(scene.materials[part.material].spec.baseColour).to.deep.equal([0.5, 0.25, 0.125]);
    // A sphere of radiance 7 and radius 0.5 m has π r² L of radiant intensity.
    expect(scene.lights[0].spec.intensity).to.be.closeTo(7 * Math.PI * 0.25, 1e-9);
    expect(scene.references.map(({ kind, state, used }) => [kind, state, used])).to.deep.equal([
      ['sublayer', 'ok', true],
      ['reference', 'ok', true],
      ['payload', 'ok', true],
    ]);
  });

  it('inherit from classes, and repeat prototypes', async () => {
    const scene = await read(`(metersPerUnit = 1)
class "_frame" { ${quad()} }
def Xform "a" (inherits = </_frame>) {}
def PointInstancer "rows" {
  rel prototypes = [</a>]
  int[] protoIndices = [0, 0, 0]
  point3f[] positions = [(0, 0, 0), (2, 0, 0), (4, 0, 0)]
  quath[] orientations = [(1, 0, 0, 0), (1, 0, 0, 0), (0.70710678, 0, 0.70710678, 0)]
  int64[] invisibleIds = [1]
}`);
    expect(nodeAt(scene, '/a/slab').mesh).to.equal(0);
    const copies = scene.nodes.filter(({ path, mesh }) => path.startsWith('/rows/') && mesh >= 0);
    expect(copies.length).to.equal(2);
    near(place(copies[1], [1, 0, 0]), [4, 0, -1], 1e-6);
    expect(new Set(copies.map(({ mesh }) => mesh)).size).to.equal(1);
  });

  it('have lights in our units, with shadow and linking', async () => {
    const scene = await read(`(metersPerUnit = 0.5)
def Xform "jar" { def Mesh "glass" {} }
def DistantLight "sun" { float inputs:intensity = 3
  float inputs:angle = 10 }
def RectLight "window" { float inputs:intensity = 8
  float inputs:exposure = 1
  float inputs:width = 2
  float inputs:height = 4
  bool inputs:normalize = 1
  bool inputs:shadow:enable = 0
  bool collection:lightLink:includeRoot = 0
  rel collection:lightLink:includes = </jar>
  rel collection:shadowLink:excludes = [</jar/glass>] }
def SphereLight "lantern" { float inputs:radius = 0.2
  float inputs:shaping:cone:angle = 30 }`);
    const [sun, window, lantern] = scene.lights;
    expect(sun.spec.intensity).to.be.closeTo(3 * Math.PI * Math.sin((5 * Math.PI) / 180) ** 2, 1e-12);
    expect(window.spec).to.include({ kind: 'rectangle', width: 1, height: 2, intensity: 2, castsShadows: false });
    expect(window.links).to.deep.equal({
      lights: { mode: 'only', paths: ['/jar'] },
      shadowsOf: { mode: 'except', paths: ['/jar/glass'] },
    });
    expect(lantern.spec).to.include({ kind: 'spot', cone: 60, radius: 0.1 });
  });

  it('have cameras, render settings and frames', async () => {
    const { cameras, settings } = await read(`(framesPerSecond = 24
  startTimeCode = 1001
  endTimeCode = 1048
  renderSettingsPrimPath = "/Render/main")
def Camera "close" { float focalLength = 50
  float verticalAperture = 20
  float horizontalAperture = 36
  float2 clippingRange = (10, 5000) }
def Scope "Render" {
  def RenderSettings "main" { uniform int2 resolution = (1920, 1080)
    uniform float pixelAspectRatio = 1
    rel camera = </close>
    rel products = </Render/p> }
  def RenderProduct "p" { token productName = "out/yard.exr" }
}`);
    expect(cameras[0].fieldOfView).to.be.closeTo((2 * Math.atan(0.2) * 180) / Math.PI, 1e-9);
    expect(cameras[0]).to.include({ aspect: 1.8, near: 0.1, far: 50 });
    expect(settings).to.deep.include({ width: 1920, height: 1080, frameRate: 24, firstFrame: 1001, lastFrame: 1048 });
    expect(settings).to.deep.include({ output: 'out/yard.exr', camera: '/close' });
  });

  it('have preview surfaces with textures, their places and their parts of a mesh', async () => {
    const scene = await read(
      `def Material "label" {
  token outputs:surface.connect = </label/s.outputs:surface>
  string inputs:set = "print"
  def Shader "s" { uniform token info:id = "UsdPreviewSurface"
    color3f inputs:diffuseColor.connect = </label/t.outputs:rgb>
    float inputs:opacity.connect = </label/t.outputs:a>
    float inputs:opacityThreshold = 0.5
    token outputs:surface }
  def Shader "t" { uniform token info:id = "UsdUVTexture"
    asset inputs:file = @./print.png@
    token inputs:wrapS = "clamp"
    token inputs:sourceColorSpace = "sRGB"
    float2 inputs:st.connect = </label/x.outputs:result>
    float3 outputs:rgb
    float outputs:a }
  def Shader "x" { uniform token info:id = "UsdTransform2d"
    float2 inputs:in.connect = </label/r.outputs:result>
    float2 inputs:scale = (3, 4)
    float inputs:rotation = 90
    float2 outputs:result }
  def Shader "r" { uniform token info:id = "UsdPrimvarReader_float2"
    string inputs:varname.connect = </label.inputs:set>
    float2 outputs:result }
}
def Mesh "box" {
  point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0), (0, 1, 0), (2, 0, 0), (2, 1, 0)]
  int[] faceVertexCounts = [4, 4]
  int[] faceVertexIndices = [0, 1, 2, 3, 1, 4, 5, 2]
  color3f[] primvars:displayColor = [(0.2, 0.4, 0.6)]
  def GeomSubset "front" { int[] indices = [1]
    uniform token elementType = "face"
    rel material:binding = </label> }
}`,
      { 'print.png': 'png' },
    );
    const [texture, cut] = scene.materials[0].textures;
    expect(texture).to.deep.include({ slot: 'baseColour', wrap: 'clamp', colourSpace: 'srgb', uvName: 'print', scale: [3, 4], rotation: 90 }); // prettier-ignore
    expect(cut).to.include({ slot: 'alpha', channel: 'alpha' });
    expect(scene.materials[0].spec).to.include({ alphaMode: 'mask', alphaCutoff: 0.5 });
    const { parts } = nodeAt(scene, '/box');
    expect(parts.map(({ faces }) => [...faces!])).to.deep.equal([[0], [1]]);
    expect(scene.materials[parts[0].material].spec.baseColour).to.deep.equal([0.2, 0.4, 0.6]);
  });

  it('turn left-handed faces round, mark what moves, and tell what they do not understand by place', async () => {
    const scene = await read(`def Xform "fan" {
  double xformOp:rotateZ.timeSamples = { 1: 0, 24: 90 }
  uniform token[] xformOpOrder = ["xformOp:rotateZ"]
  ${quad('uniform token orientation = "leftHanded"')}
}
def Xform "ghost" { token visibility.timeSamples = { 1: "inherited", 5: "invisible" } }
def BasisCurves "grass" {}
def "gone" (references = @nowhere.usda@) {}`);
    expect([...meshAt(scene, '/fan/slab').corners]).to.deep.equal([3, 2, 1, 0]);
    expect(nodeAt(scene, '/fan/slab').moves).to.equal(true);
    expect(nodeAt(scene, '/ghost').visibilityChanges).to.equal(true);
    expect(scene.notUnderstood).to.deep.equal([{ where: 'yard.usda:14', what: 'BasisCurves "grass"' }]);
    expect(scene.references[0]).to.include({ path: 'nowhere.usda', state: 'missing', neededBy: 'yard.usda:15' });
  });

  it('keep lights that are hidden, switched off, and say that a hidden dome is left out', async () => {
    const scene = await read('def SphereLight "a" { token visibility = "invisible" }\ndef DomeLight "sky" { token visibility = "invisible" }'); // prettier-ignore
    expect(scene.lights.map(({ spec }) => spec.hidden)).to.deep.equal([true]);
    expect([scene.environment, scene.notUnderstood[0].what]).to.deep.equal([null, 'dome light "sky" is hidden, and left out']); // prettier-ignore
  });

  const bad: [string, string, RegExp, Record<string, string>?][] = [
    ['a bracket that is not closed', 'def Xform "a" {', /yard\.usda:2: expected .*found the end of the file/],
    ['a word out of place', 'def Xform "a" {}\ndraw "b"', /yard\.usda:3: expected def, over or class, found "draw/],
    ['corners without points', 'def Mesh "m" { int[] faceVertexCounts = [3]\n int[] faceVertexIndices = [0, 1, 2] }', /only 0 points/],
    ['counts that do not add up', 'def Mesh "m" { point3f[] points = [(0,0,0)]\n int[] faceVertexCounts = [1000000000]\n int[] faceVertexIndices = [0] }', /1000000000 corners, but there are 1 indices/],
    ['a circle of references', 'def "a" (references = @b.usda@</b>) {}', /leads back to it/, { 'b.usda': '#usda 1.0\ndef "b" (references = @yard.usda@</a>) {}' }],
    ['a circle of sublayers', '(subLayers = [@b.usda@])', /leads back to it/, { 'b.usda': '#usda 1.0\n(subLayers = [@yard.usda@])' }],
    ['a prim that refers to itself', 'def "a" (references = </a>) {}', /leads back to it/],
  ]; // prettier-ignore
  for (const [what, text, message, more] of bad)
    it(`with ${what} are refused by file and line`, async () => {
      expect(await refusal(text, more))
        .to.match(/^RangeError/)
        .and.match(message);
    });

  it('that multiply without end are refused before memory is taken', async () => {
    const files: Record<string, string> = {};
    const ten = (file: string) =>
      Array.from({ length: 20 }, (_, i) => `def "c${i}" (references = @${file}@</x>) {}`).join('\n');
    for (let i = 0; i < 9; i++) files[`${i}.usda`] = `#usda 1.0\ndef "x" {${ten(`${i + 1}.usda`)}}`;
    files['9.usda'] = '#usda 1.0\ndef "x" {}';
    expect(await refusal('def "a" (references = @0.usda@</x>) {}', files)).to.match(/more than 300,000 prims/);
  });
});
