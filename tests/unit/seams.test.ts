/** Gaps along seams: their sizes in closed form, and what padding, matching and filling of tiles leave of them. */
import { expect } from 'chai';
import { FAMILIES } from '../../core/diagnose/registry.ts';
import { diagnoseRender, lookInRender } from '../../core/diagnose/run.ts';
import { seams } from '../../core/diagnose/seams/definition.ts';
import { carryOut } from '../../core/intake/repairs/carry-out.ts';
import { applyPatch } from '../../core/document/patch.ts';
import { validateDocument } from '../../core/document/validate.ts';
import { sceneFigures } from '../../core/predict/scene-figures.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { viewOf } from '../../core/render/scene/view.ts';
import { coverage } from '../../core/seams/islands.ts';
import { gapsOf } from '../../core/seams/gaps.ts';
import { movedShapes } from '../../core/seams/moved-shapes.ts';
import { dilate } from '../../core/textures/dilate.ts';
import { matched } from '../../core/seams/match-sides.ts';
import { wornShapes, type WornShape } from '../../core/seams/worn-shapes.ts';
import { writeGlb } from '../../core/formats/gltf.ts';
import { writeExr } from '../../core/formats/exr/write.ts';
import { polygonsOf } from '../../core/data/poly-mesh.ts';
import { seamsFaults } from '../blind/faults/seams.ts';
import { bake, cage, drawRelief, putBoard } from '../blind/relief.ts';
import { Draft, Draw } from '../blind/shots.ts';
import { inputOf, renderShot } from './bench-shot.ts';
import { compiled } from './helpers.ts';

/** Samples: shapes need no clean picture. */
const FEW = 8;

function board(seed: number, options: Parameters<typeof putBoard>[2] = {}) {
  const draft = new Draft(new Draw(seed));
  const relief = drawRelief(draft);
  putBoard(draft, relief, options);
  draft.sheet.samples = FEW;
  return { draft, relief, shot: draft.shot };
}

describe('gaps', () => {
  it('are as wide as the sides of a step are apart, and as long as the seam: scale × difference', () => {
    const { draft, relief } = board(1);
    // Two plains: the left island at 0, the right one at 1.
    draft.textures.set(
      'relief',
      bake(relief, (_x, _y, isRight) => Number(isRight)),
    );
    const { document } = draft;
    document.objects.board.subdivision = { level: 0, edgePixels: null, boundary: 'edgeAndCorner', uvs: 'all' };
    document.materials.board.displacementScale = 0.1;
    const test = compiled(draft.shot);
    const { greatest, area, length } = gapsOf(movedShapes(test), viewOf(test, draft.sheet));
    // The seam goes to and fro by 0.08 of 1.8 m in each of 5 rows of 0.26 m.
    const own = 5 * Math.hypot(0.08 * 1.8, 1.3 / 5);
    expect(length).to.be.closeTo(own, 1e-5);
    expect(greatest).to.be.closeTo(0.1, 1e-6);
    expect(area).to.be.closeTo(0.1 * own, 1e-5);
  });

  it('are as wide in pixels as a pinhole shows them', () => {
    const { draft, relief } = board(1);
    draft.textures.set(
      'relief',
      bake(relief, (_x, _y, isRight) => Number(isRight)),
    );
    const { document, sheet } = draft;
    // Seen along the board from 5 m: a gap of 0.1 m across the line of sight.
    document.objects.board.transform = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
    document.cameras.main.transform = [0, 0, -1, 0, 0, 1, 0, 0, 1, 0, 0, 0, 5, 0.65, 0, 1];
    document.objects.board.subdivision = { level: 0, edgePixels: null, boundary: 'edgeAndCorner', uvs: 'all' };
    document.materials.board.displacementScale = 0.1;
    const test = compiled(draft.shot);
    const { gaps } = gapsOf(movedShapes(test), viewOf(test, sheet));
    const perRadian = sheet.height / 2 / Math.tan((document.cameras.main.fieldOfView * Math.PI) / 360);
    for (const { pixels, vertices } of gaps) {
      const x = draft.meshes.get('board')!.positions[3 * vertices[0]];
      expect(pixels[0]).to.be.closeTo((0.1 * perRadian) / (5 - x), 0.02);
    }
  });

  it('of maps that are baked for both sides are none, and of a map that is not there nothing is told', () => {
    for (const seed of [1, 2, 3]) {
      const { shot } = board(seed);
      const input = inputOf(shot, renderShot(shot));
      expect(sceneFigures(input.scene, input.sheet)['gap-pixels']!).to.be.lessThan(0.2);
      expect(diagnoseRender(input, FAMILIES.filter(({ isEarly }) => isEarly)).map(({ finding }) => finding.sentence), `seed ${seed}`).to.deep.equal([]); // prettier-ignore
      shot.document.materials.board.displacementMap = null;
      const flat = inputOf(shot, renderShot(shot));
      expect(Object.keys(sceneFigures(flat.scene, flat.sheet)), 'no gap where nothing moves').to.deep.equal(['memory', 'preview-shadows']); // prettier-ignore
    }
  });
});

describe('seams that stand open', () => {
  for (const [k, fault] of seamsFaults.entries())
    it(`are told by what closes them, and closed by the first remedy: ${fault.cause}`, () => {
      const draft = new Draft(new Draw(20 + k));
      fault.plant(draft);
      draft.sheet.samples = FEW;
      const [found] = lookInRender(inputOf(draft.shot, renderShot(draft.shot)), seams);
      expect(found.finding.cause).to.equal(fault.cause);
      const [remedy] = found.finding.remedies;
      const pixels = remedy.predicted!.figures.find(({ id }) => id === 'gap-pixels')!;
      const area = remedy.predicted!.figures.find(({ id }) => id === 'gap-area')!;
      expect(pixels.before!).to.be.at.least(0.5);
      expect(pixels.after!, 'below half a pixel').to.be.lessThan(0.5);
      expect(area.after! / area.before!, 'nearly all of it').to.be.lessThan(0.1);
    });

  it('are mended by files that do what was predicted of them', async () => {
    const fault = seamsFaults.find(({ cause }) => cause === 'seams.sides-differ')!;
    const draft = new Draft(new Draw(31));
    fault.plant(draft);
    draft.sheet.samples = FEW;
    const { shot } = draft;
    const [{ finding }] = lookInRender(inputOf(shot, renderShot(shot)), seams);
    const remedy = finding.remedies.find(({ id }) => id === 'match')!;
    if (remedy.change?.kind !== 'files') throw new Error('no files');
    // The same shot as files, for the work reads and writes them.
    const { width, height, texels } = draft.textures.get('relief')!;
    const plane = (c: number) => Float32Array.from({ length: width * height }, (_, i) => texels[3 * i + c]);
    const channels = new Map(['R', 'G', 'B'].map((name, c) => [name, plane(c)]));
    const files = new Map<string, Uint8Array>([['relief.exr', writeExr({ x: 0, y: 0, width, height, channels }, { display: { width, height }, compression: 'none', deflate: (b) => b })]]); // prettier-ignore
    const ids = Object.keys(draft.document.meshes);
    files.set('blind.glb', await writeGlb(ids.map((id) => ({ name: id, mesh: draft.meshes.get(id)!, polygons: draft.meshes.get(id)!.polygons ?? null })))); // prettier-ignore
    ids.forEach((id, mesh) => (draft.document.meshes[id] = { file: 'blind.glb', mesh, primitive: 0 }));
    const read = (from: Map<string, Uint8Array>) => async (path: string) => from.get(path) ?? null;
    const made = await carryOut(draft.document, remedy.change, read(files));
    expect([...made.files.keys()]).to.deep.equal(['textures/relief-matched.exr']);
    const document = validateDocument(applyPatch(draft.document, made.patch), 'mended');
    const assets = await loadAssets(document, read(new Map([...files, ...made.files])), 'mended');
    const mended = inputOf({ document, assets }, renderShot({ document, assets }));
    const is = sceneFigures(mended.scene, mended.sheet)['gap-area']!;
    const told = remedy.predicted!.figures.find(({ id }) => id === 'gap-area')!;
    expect(is).to.be.closeTo(told.after!, 0.01 * told.before!);
    expect(is / told.before!).to.be.lessThan(0.01);
  });
});

describe('islands on a texture', () => {
  it('cover the texels whose middles they hold: a triangle of half a square, one of two, 8 × 8', () => {
    const shape = { mesh: { indices: Uint32Array.of(0, 1, 2), positions: new Float32Array(9), uvs: null, before: new Float32Array(9) }, texels: Float64Array.of(0, 0, 8, 0, 0, 8) } as unknown as WornShape; // prettier-ignore
    const covered = coverage([shape], { width: 8, height: 8 });
    // Middles below the diagonal and on it: 1 + 2 + … + 8.
    expect(covered.reduce((sum, one) => sum + one, 0)).to.equal(36);
    expect([covered[0], covered[7], covered[8 * 7], covered[8 * 7 + 7]]).to.deep.equal([1, 1, 1, 0]);
  });

  it('are dilated by rings: a square of 2 becomes one of 2 + 2 n, and nothing else is painted', () => {
    const [width, height] = [16, 16];
    const texels = new Float32Array(3 * width * height);
    const painted = new Uint8Array(width * height);
    for (const i of [7 * 16 + 7, 7 * 16 + 8, 8 * 16 + 7, 8 * 16 + 8]) {
      painted[i] = 1;
      texels.fill(0.5, 3 * i, 3 * i + 3);
    }
    dilate({ width, height, texels, alpha: null }, painted, { rings: 3 });
    for (let y = 0; y < 16; y++)
      for (let x = 0; x < 16; x++) {
        const isInside = x >= 4 && x <= 11 && y >= 4 && y <= 11;
        expect(painted[y * 16 + x], `${x}, ${y}`).to.equal(Number(isInside));
        expect(texels[3 * (y * 16 + x)], `${x}, ${y}`).to.equal(isInside ? 0.5 : 0);
      }
  });

  it('keep their seams when the mesh is told by its polygons', () => {
    const { relief } = board(1);
    const poly = polygonsOf(cage(relief));
    expect(poly.points.length / 3, 'both halves share the points of the seam').to.equal(7 * 6);
  });
});

describe('a texture made to match', () => {
  it('is changed by no more than its sides differ, and not at all further in than it fades', () => {
    const { draft, relief } = board(6);
    const off = 0.2;
    const before = bake(relief, (x, y, isRight) => relief.height(x, y) + (isRight ? off : 0));
    draft.textures.set('relief', before);
    const shapes = wornShapes({ document: draft.document, assets: draft.shot.assets, sheet: draft.sheet });
    const after = matched(before, shapes);
    const changed = [...before.texels.keys()].filter((i) => after.texels[i] !== before.texels[i]);
    expect(Math.max(...changed.map((i) => Math.abs(after.texels[i] - before.texels[i])))).to.be.below(off);
    // Eight texels from a seam that goes to and fro by 0.08 of the board, and the filter’s own.
    const columns = changed.map((i) => Math.floor(i / 3) % before.width);
    const seamAt = [0.06 + (0.38 * 0.5) / 0.6, 0.54 + (0.4 * 0.1) / 0.6].map((u) => u * before.width);
    for (const x of columns) expect(Math.min(...seamAt.map((at) => Math.abs(x - at)))).to.be.below(0.04 * 0.7 * before.width + 11); // prettier-ignore
  });
});
