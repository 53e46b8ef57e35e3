/**
 * Five objects, each broken at another link of the chain from the scene to the disk: what is told is held against
 * pictures of the scene rendered whole and as it would arrive.
 */
import { expect } from 'chai';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import { readScene } from '../../core/formats/scene-readers.ts';
import { encode } from 'fast-png';
import { chainOf } from '../../core/intake/files/chain.ts';
import { listFiles } from '../../core/intake/files/list.ts';
import { toShot } from '../../core/intake/to-shot.ts';
import { channel, type Picture } from '../../core/data/picture.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { render } from './helpers.ts';

const slab = (x: number, material: string) => `
  uniform token subdivisionScheme = "none"
  point3f[] points = [(${x}, 0, 0), (${x + 0.9}, 0, 0), (${x + 0.9}, 1, 0), (${x}, 1, 0)]
  int[] faceVertexCounts = [4]
  int[] faceVertexIndices = [0, 1, 2, 3]
  texCoord2f[] primvars:st = [(0, 0), (1, 0), (1, 1), (0, 1)] (interpolation = "vertex")
  rel material:binding = <${material}>`;
const red = (name: string, extra = '', roughness = '0.9') => `def Material "${name}" {
  token outputs:surface.connect = </${name}/s.outputs:surface>
  def Shader "s" { uniform token info:id = "UsdPreviewSurface"
    color3f inputs:diffuseColor${extra || ' = (0.7, 0.1, 0.1)'}
    float inputs:metallic = 1
    float inputs:roughness${roughness.startsWith('.') ? roughness : ` = ${roughness}`} }
}`;
const SCENE = `#usda 1.0
(metersPerUnit = 1
 upAxis = "Y")
def Xform "crate" (references = @props/crate.usda@</crate>) {}
def Mesh "lid" (payload = @props/lid.usda@</lid>) {}
def Mesh "board" {${slab(2, '/oak')}
}
def Mesh "tray" {${slab(3, '/tin')}
}
def Mesh "sign" {${slab(4, '/print')}
}
def Material "oak" (references = @looks/oak.usda@</oak>) {}
def Material "tin" {
  token outputs:surface.connect = </tin/s.outputs:surface>
  def Shader "s" { uniform token info:id = "UsdPreviewSurface"
    color3f inputs:diffuseColor = (0.7, 0.1, 0.1)
    float inputs:metallic = 1
    float inputs:roughness.connect = </tin/rough.outputs:r> }
  def Shader "rough" (references = @looks/shared.usda@</rough>) {}
}
def Material "print" {
  token outputs:surface.connect = </print/s.outputs:surface>
  def Shader "s" { uniform token info:id = "UsdPreviewSurface"
    color3f inputs:diffuseColor.connect = </print/t.outputs:rgb>
    float inputs:roughness = 0.9 }
  def Shader "t" { uniform token info:id = "UsdUVTexture"
    asset inputs:file = @maps/print.png@ }
}
def DistantLight "sun" { float inputs:intensity = 3
  float inputs:angle = 20 }
def Camera "view" { float focalLength = 20
  float horizontalAperture = 24
  float verticalAperture = 6
  double3 xformOp:translate = (2.45, 0.5, 4.2)
  uniform token[] xformOpOrder = ["xformOp:translate"] }
`;
const png = (value: number) =>
  encode({ width: 2, height: 2, channels: 3, depth: 8, data: new Uint8Array(12).fill(value) });
const text = (content: string) => new TextEncoder().encode(content);
const WHOLE = new Map<string, Uint8Array>([
  ['yard.usda', text(SCENE)],
  ['props/crate.usda', text(`#usda 1.0\ndef Xform "crate" { def Mesh "body" {${slab(0, '/crate/m')}\n}\n${red('m').replaceAll('</m/', '</crate/m/')} }`)],
  ['props/lid.usda', text(`#usda 1.0\ndef Mesh "lid" {${slab(1, '/oak')}\n}`)],
  ['looks/oak.usda', text(`#usda 1.0\n${red('oak')}`)],
  ['looks/shared.usda', text('#usda 1.0\ndef Shader "rough" { uniform token info:id = "UsdUVTexture"\n asset inputs:file = @../maps/rough.png@ }')],
  ['maps/rough.png', png(20)],
  ['maps/print.png', png(120)],
]); // prettier-ignore
/** The file that is lost, the object, and how it comes out. */
const BROKEN: [string, string, string][] = [
  ['props/crate.usda', '/crate', 'gone'],
  ['props/lid.usda', '/lid', 'gone'],
  ['looks/oak.usda', '/board', 'plain'],
  ['looks/shared.usda', '/tray', 'shaded wrongly'],
  ['maps/print.png', '/sign', 'untextured'],
];

async function rendered(files: Map<string, Uint8Array>) {
  const source = await readScene('yard.usda', filesInMemory(files));
  const { document, files: own } = await toShot(source, { width: 100 });
  Object.assign(document.sheets.preview, { samples: 16 });
  const assets = await loadAssets(document, async (path) => own.get(path) ?? null, 'yard', 'stand in');
  const { width, height } = document.sheets.preview;
  const picture = pictureOf([render({ document, assets })], { x: 0, y: 0, width, height }, ['beauty', 'albedo', 'object']); // prettier-ignore
  return { source, document, picture };
}

/** How an object comes out, read off the two pictures alone, in the block of pixels where its slab stands. */
function seen(whole: Picture, broken: Picture, x: number): string {
  const { width, height } = whole;
  const pixels = Array.from({ length: 6 }, (_, r) => Array.from({ length: 10 }, (_, c) => (Math.floor(height / 2) - 3 + r) * width + x * 20 + 5 + c)).flat(); // prettier-ignore
  const values = (of: Picture, pass: string) =>
    pixels.map((i) => ['R', 'G', 'B'].map((c) => channel(of, `${pass}.${c}`)[i]));
  const isSame = (pass: string) =>
    values(whole, pass).every((one, i) => one.every((v, k) => Math.abs(v - values(broken, pass)[i][k]) < 1e-4));
  expect(
    values(whole, 'albedo')
      .flat()
      .some((v) => v > 0),
    `slab ${x} is there when all is`,
  ).to.equal(true);
  const albedo = values(broken, 'albedo').flat();
  if (albedo.every((v) => v === 0)) return 'gone';
  if (isSame('albedo')) return isSame('beauty') ? 'as it should' : 'shaded wrongly';
  // What no material says is one matt grey.
  return albedo.every((v) => Math.abs(v - 0.8) < 1e-3) ? 'plain' : 'untextured';
}

describe('Files that do not arrive', () => {
  let whole: Awaited<ReturnType<typeof rendered>>;
  let broken: typeof whole;
  before(async () => {
    whole = await rendered(WHOLE);
    broken = await rendered(new Map([...WHOLE].filter(([path]) => !BROKEN.some(([file]) => file === path))));
  });

  it('are told by what they do to each of five objects', () => {
    const told = listFiles(broken.source, null).files.filter(({ state }) => state === 'missing');
    const looks = told.flatMap(({ path, breaks }) => breaks.flatMap(({ look, objects }) => objects.map((object) => [path, object, look]))); // prettier-ignore
    expect(looks.sort()).to.deep.equal([...BROKEN].sort());
  });

  it('look like that: two objects gone, one plain, one shaded wrongly, one untextured', () => {
    const found = BROKEN.map(([, object], x) => [object, seen(whole.picture, broken.picture, x)]);
    expect(found).to.deep.equal(BROKEN.map(([, object, look]) => [object, look]));
  });

  it('are told before they are lost, too', () => {
    const told = listFiles(whole.source, null).files.filter(({ path }) => path !== 'maps/rough.png');
    const objects = Object.fromEntries(BROKEN.map(([path]) => [path, told.find((file) => file.path === path)!.breaks]));
    expect(objects).to.deep.equal({
      'props/crate.usda': [{ look: 'gone', objects: ['/crate/body'] }],
      'props/lid.usda': [{ look: 'gone', objects: ['/lid'] }],
      'looks/oak.usda': [{ look: 'plain', objects: ['/lid', '/board'] }],
      'looks/shared.usda': [{ look: 'shaded wrongly', objects: ['/tray'] }],
      'maps/print.png': [{ look: 'untextured', objects: ['/sign'] }],
    });
  });

  it('stand in the chain below what needs them, each branch with its bytes', () => {
    const nodes = new Map(chainOf(broken.source, null).map((node) => [node.id, node]));
    const below = (id: string): string[] => [id, ...nodes.get(id)!.children.flatMap(below)];
    for (const [path, object] of BROKEN) {
      const from = [...nodes.values()].find(({ kind, label }) => kind === 'object' && label === object)!;
      expect(below(from.id), object).to.include(path);
    }
    const all = chainOf(whole.source, null);
    const bytes = [...WHOLE.values()].reduce((sum, { byteLength }) => sum + byteLength, 0);
    expect(all[0].total).to.equal(bytes);
  });
});
