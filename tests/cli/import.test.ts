/** Scenes of open formats through the shell: into a shot folder that renders. */
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { expect } from 'chai';
import type { TakenOver } from '../../core/contracts/intake.ts';
import { importCommand } from '../../cli/import.ts';
import { openShot } from '../../cli/open-shot.ts';
import { parseDocument } from '../../core/document/validate.ts';
import { writePng } from '../../core/formats/png.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { captured } from './captured.ts';

const folder = mkdtempSync(join(tmpdir(), 'dusting-import-'));
const put = (files: Record<string, string | Uint8Array>) => {
  for (const [path, content] of Object.entries(files)) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), content);
  }
};
const bring = async (scene: string, out: string) =>
  JSON.parse(await captured(() => importCommand([join(folder, scene), '--out', join(folder, out), '--json'])));
const documentOf = (shot: string) => parseDocument(readFileSync(join(folder, shot, 'shot.json'), 'utf8'));

describe('dusting import', () => {
  after(() => rmSync(folder, { recursive: true, force: true }));

  it('makes a shot folder of a USD scene: objects, links, maps, sizes; and it compiles', async () => {
    put({
      'yard/yard.usda': `#usda 1.0
(metersPerUnit = 1 defaultPrim = "yard")
def Xform "yard" {
  def Mesh "hive" {
    point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0), (0, 1, 0)]
    int[] faceVertexCounts = [4]
    int[] faceVertexIndices = [0, 1, 2, 3]
    uniform token subdivisionScheme = "none"
    texCoord2f[] primvars:st = [(0, 0), (1, 0), (1, 1), (0, 1)] (interpolation = "vertex")
    rel material:binding = </yard/straw>
  }
  def Sphere "bee" { double radius = 0.1 }
  def DistantLight "sun" { float inputs:intensity = 2
    bool collection:lightLink:includeRoot = 0
    rel collection:lightLink:includes = </yard/hive> }
  def Camera "wide" { float focalLength = 30
    float horizontalAperture = 32
    float verticalAperture = 18 }
  def Material "straw" {
    token outputs:surface.connect = </yard/straw/s.outputs:surface>
    def Shader "s" { uniform token info:id = "UsdPreviewSurface"
      color3f inputs:diffuseColor.connect = </yard/straw/t.outputs:rgb>
      token outputs:surface }
    def Shader "t" { uniform token info:id = "UsdUVTexture"
      asset inputs:file = @tex/straw.png@
      float3 outputs:rgb }
  }
}`,
      'yard/tex/straw.png': writePng(2, 2, new Uint8Array(12).fill(128)),
    });
    const { takenOver, ...report } = await bring('yard', 'yard-shot');
    expect(takenOver.map(({ aspect, fate }: TakenOver) => `${aspect} ${fate}`).join(', ')).to.equal('materials carried, lights carried, environment default, cameras carried, view transform default, picture default, sampling default, integrator default, motion default'); // prettier-ignore
    expect(report).to.deep.equal({
      objects: 2, meshes: 2, triangles: 2 + 48 * 2 * 23, polygons: 1 + 48 * 24, materials: 2, textures: 1, lights: 1,
      cameras: 1, notUnderstood: [], repaired: [],
    }); // prettier-ignore
    const document = documentOf('yard-shot');
    // A path tracer needs both sides of what a display would show one side of: glass is left through its back.
    expect(document.objects.bee.facing).to.equal('both');
    expect(document.lights.sun.lights).to.deep.equal({ mode: 'only', objects: ['hive'] });
    expect(document.textures.straw).to.deep.equal({ file: 'textures/straw.png', colourSpace: 'srgb' });
    expect([document.sheets.final.width, document.sheets.final.height]).to.deep.equal([960, 540]);
    const shot = await openShot(join(folder, 'yard-shot'), {});
    const scene = compileScene(shot.document, await shot.load(shot.document), shot.document.sheets.preview);
    expect(scene.warnings).to.deep.equal([]);
  });

  it('tells what it did not understand and where, as text too', async () => {
    put({ 'b/b.obj': 'v 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl lost\nf 1 2 3\n' });
    const text = await captured(() => importCommand([join(folder, 'b/b.obj'), '--out', join(folder, 'b-shot')]));
    expect(text).to.match(/1 objects, 1 meshes, 1 triangles/);
    expect(text).to.match(/b\.obj:4: material "lost" is in no library that is there/);
    expect(text).to.match(/no camera to look through/);
  });

  it('leaves nothing behind when it refuses', async () => {
    put({ 'c/c.obj': 'v 0 0 nan\nf 1 1 1\n', 'd/shot.json': '{}' });
    const refused = (...args: string[]) =>
      importCommand(args.map((a) => (a.startsWith('--') ? a : join(folder, a)))).then(
        () => 'done',
        (error: Error) => error.message,
      );
    expect(await refused('c/c.obj', '--out', 'c-shot')).to.match(/c\.obj:1: "nan" is not finite/);
    expect(existsSync(join(folder, 'c-shot'))).to.equal(false);
    expect(await refused('b/b.obj', '--out', 'd')).to.match(/is there already and not empty/);
    expect(await refused('c/c.obj')).to.match(/--out/);
    expect(await refused('c/none.obj', '--out', 'x')).to.match(/There is no/);
    put({ 'e/a.obj': '', 'e/b.obj': '' });
    expect(await refused('e', '--out', 'x')).to.match(/expected one scene in the folder, found a\.obj, b\.obj/);
  });
});
