/** Displacement maps and what meshes carry of them: maps in closed form, waves of known length, plates of known thickness. */
import { expect } from 'chai';
import { lookInRender } from '../../core/diagnose/run.ts';
import { displacement } from '../../core/diagnose/displacement/definition.ts';
import { carriedBy } from '../../core/relief/carried.ts';
import { cutOff } from '../../core/relief/cut-off.ts';
import { readMap } from '../../core/relief/read-map.ts';
import { movedThrough } from '../../core/relief/through.ts';
import { boundFaults, displacementFaults } from '../blind/faults/displacement.ts';
import { drawRelief, putBoard } from '../blind/relief.ts';
import { Draft, Draw } from '../blind/shots.ts';
import { inputOf, renderShot } from './bench-shot.ts';

const grid = (size: number, at: (x: number, y: number) => number) => Float32Array.from({ length: size * size }, (_, i) => at(((i % size) + 0.5) / size, (Math.floor(i / size) + 0.5) / size)); // prettier-ignore
/** Samples: shapes need no clean picture. */
const FEW = 8;
const all = (size: number) => new Uint8Array(size * size).fill(1);

describe('a displacement map', () => {
  it('that goes both ways rests at a half, one of heights at 0, one that is pressed in at 1 (common practice)', () => {
    const dome = (x: number, y: number) => Math.max(0, 0.16 - (x - 0.5) ** 2 - (y - 0.5) ** 2) / 0.16;
    const kinds = [
      [grid(64, (x, y) => 0.5 + 0.4 * dome(x, y) * Math.sign(x - 0.5)), 'both ways', 0.5],
      [grid(64, dome), 'raised', 0],
      [grid(64, (x, y) => 1 - dome(x, y)), 'pressed', 1],
      // Half of 255 is 127.5: either step beside it is meant.
      [grid(64, (x, y) => 127 / 255 + 0.4 * dome(x, y) * Math.sign(x - 0.5)), 'both ways', 0.5],
      [grid(64, (x) => 2 * (x - 0.5)), 'both ways', 0],
    ] as const;
    for (const [heights, kind, rest] of kinds) {
      const map = readMap(heights, null)!;
      expect([map.kind, map.rest]).to.deep.equal([kind, rest]);
    }
  });

  it('is read where it is worn, and nowhere else', () => {
    const heights = grid(16, (x) => (x < 0.5 ? 0.25 : 1));
    const covered = Uint8Array.from(heights, (value) => Number(value === 0.25));
    expect(readMap(heights, covered)).to.deep.include({ least: 0.25, most: 0.25, mean: 0.25, steps: 1 });
    expect(readMap(heights, new Uint8Array(256)), 'worn by nothing').to.equal(null);
    const { bins, flat } = readMap(heights, null)!;
    expect(bins.reduce((sum, { count }) => sum + count, 0)).to.equal(256);
    expect(flat!.share).to.equal(0.5);
  });

  it('has its peaks cut off where a sine is held at 1, and not where a smooth step ends there', () => {
    const told = (heights: Float32Array) => cutOff(heights, 128, all(128), readMap(heights, null)!);
    expect(told(grid(128, (x, y) => Math.min(1, 0.5 + 0.9 * Math.sin(20 * x) * Math.sin(20 * y))))?.end).to.equal('high'); // prettier-ignore
    const step = (t: number) => Math.min(1, Math.max(0, t)) ** 2 * (3 - 2 * Math.min(1, Math.max(0, t)));
    expect(told(grid(128, (x, y) => step(4 * (0.42 - Math.hypot(x - 0.5, y - 0.5)) + 0.2)))).to.equal(null);
    expect(told(grid(128, (x, y) => 0.5 + 0.5 * Math.sin(20 * x) * Math.sin(20 * y)))).to.equal(null);
  });
});

describe('a mesh carries of a map', () => {
  it('what means over its edges leave: sinc² of a wave (Shannon 1949), nearly none at one edge to a wave, most at four', () => {
    // A length that no power of two meets in the same phase again and again.
    const [size, wave] = [512, 37.3];
    const carried = carriedBy(grid(size, (x) => 0.5 + 0.5 * Math.sin((2 * Math.PI * size * x) / wave)), size, size, all(size)); // prettier-ignore
    for (const edge of [1, 2, 4, 8, 16]) {
      // Means of whole texels: the sinc of sums, which is that of means where texels are fine.
      const sinc = (n: number) => Math.sin((Math.PI * n) / wave) / (n * Math.sin(Math.PI / wave));
      expect(carried(edge), `${edge} texels`).to.be.closeTo(sinc(edge) ** 2, 0.02);
    }
    expect(carried(wave), 'one edge').to.be.lessThan(0.05);
    expect(carried(wave / 4), 'four edges, between two means').to.be.greaterThan(0.75);
    expect(
      carriedBy(
        grid(16, () => 0.5),
        16,
        16,
        all(16),
      )(8),
      'no relief',
    ).to.equal(1);
  });
});

describe('a surface', () => {
  it('goes through itself where it is pressed further in than it is thick', () => {
    // Two squares, 0.1 apart, facing out; the upper one moves down.
    const before = Float32Array.of(0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 0, 0, 0.1, 1, 0, 0.1, 1, 1, 0.1, 0, 1, 0.1, 0.5, 0.5, 0.1); // prettier-ignore
    const indices = Uint32Array.of(0, 2, 1, 0, 3, 2, 4, 5, 8, 5, 6, 8, 6, 7, 8, 7, 4, 8);
    const moved = (by: number) => {
      const positions = before.slice();
      positions[26] -= by;
      return movedThrough({ mesh: { before, positions, indices, uvs: null } });
    };
    expect(moved(0.05).least).to.be.closeTo(2, 1e-5);
    expect(moved(0.2).least).to.be.closeTo(0.5, 1e-5);
    expect([moved(0.05).share, moved(0.2).share > 0]).to.deep.equal([0, true]);
  });
});

describe('displacement that is wrong', () => {
  for (const [k, fault] of [...displacementFaults, ...boundFaults].entries())
    it(`is told, with what to set: ${fault.cause}`, () => {
      const draft = new Draft(new Draw(40 + k));
      fault.plant(draft);
      draft.sheet.samples = FEW;
      const found = lookInRender(inputOf(draft.shot, renderShot(draft.shot)), displacement);
      expect(found.map(({ finding }) => finding.cause)).to.deep.equal([fault.cause]);
      const [remedy] = found[0].finding.remedies;
      if (fault.cause === 'displacement.clipped-range') {
        expect(remedy.change, 'nothing brings the peaks back').to.equal(null);
        return;
      }
      if (remedy.change?.kind !== 'values') throw new Error('no values');
      // Set as told, nothing is left to tell.
      const { document } = draft;
      for (const [pointer, value] of Object.entries(remedy.change.values)) {
        const [part, id, ...keys] = pointer.slice(1).split('/');
        const item = (document as unknown as Record<string, Record<string, Record<string, unknown>>>)[part][id];
        const last = keys.pop()!;
        const at = keys.reduce((of, key) => of[key] as Record<string, unknown>, item);
        at[last] = value;
      }
      expect(lookInRender(inputOf(draft.shot, renderShot(draft.shot)), displacement).map(({ finding }) => finding.sentence)).to.deep.equal([]); // prettier-ignore
    });

  it('is not told of a board that is as it should be, nor what its object is too far away to show', () => {
    const draft = new Draft(new Draw(5));
    putBoard(draft, drawRelief(draft));
    draft.sheet.samples = FEW;
    expect(lookInRender(inputOf(draft.shot, renderShot(draft.shot)), displacement)).to.deep.equal([]);
  });
});
