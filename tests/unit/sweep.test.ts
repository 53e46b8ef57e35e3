/** Values that a sweep proposes, and lists of them as a person types them. */
import { expect } from 'chai';
import { dialAt } from '../../core/document/dials.ts';
import { canSweep, readSteps, sweepValues } from '../../core/predict/sweep.ts';

describe('values of a sweep', () => {
  it('doubles a count, in fours where samples come in fours', () => {
    expect(sweepValues(dialAt('/samples'), 16)).to.deep.equal([8, 32, 64, 128]);
    expect(sweepValues(dialAt('/limits/transmission'), 2)).to.deep.equal([0, 1, 4, 8, 16]);
    expect(sweepValues(dialAt('/extraSamples/light'), 1)).to.deep.equal([2, 4, 8]);
    expect(sweepValues(dialAt('/limits/diffuse'), 0)).to.deep.equal([1, 2, 4, 8]);
  });

  it('divides a short range evenly', () => {
    expect(sweepValues(dialAt('/roughnessFloor'), 0)).to.deep.equal([0.2, 0.4, 0.6, 0.8, 1]);
    expect(sweepValues({ kind: 'number', min: 0, max: 1 }, 0.25)).to.deep.equal([0, 0.2, 0.4, 0.6, 0.8, 1]);
  });

  it('climbs a round ladder where there is no end, from what stands or from a step', () => {
    expect(sweepValues({ kind: 'number', min: 0 }, 4)).to.deep.equal([0.5, 1, 2, 5, 10, 20]);
    expect(sweepValues({ kind: 'number' }, -1)).to.deep.equal(
      [-5, -2, -10, -0.5, -0.2, -0.1].sort((a, b) => a - b).slice(0, 6),
    );
    expect(sweepValues(dialAt('/clamps/indirect'), null)).to.deep.equal([0.05, 0.1, 0.2, 1, 2, 5]);
  });

  it('offers the other choices, and no sweep where there is one other', () => {
    const values = sweepValues(dialAt('/filter/kind'), 'gaussian');
    expect(values).not.to.include('gaussian');
    expect(values.length).to.be.within(2, 9);
    expect(canSweep(dialAt('/filter/kind'))).to.equal(true);
    expect(canSweep(dialAt('/precision'))).to.equal(false);
    expect(canSweep(dialAt('/roulette'))).to.equal(false);
  });

  it('stays within what a dial can be, for every dial and every value of it', () => {
    for (const now of [4, 64, 65536])
      for (const value of sweepValues(dialAt('/samples'), now) as number[]) {
        expect(value % 4).to.equal(0);
        expect(value).to.be.within(4, 65536);
        expect(value).not.to.equal(now);
      }
  });

  it('reads a list however it is parted, and says what is wrong with one', () => {
    const samples = dialAt('/samples');
    expect(readSteps(samples, 16, '12, 8;32 64  16 8')).to.deep.equal({ values: [12, 8, 32, 64] });
    expect(readSteps(dialAt('/rayDistance'), 5, 'any 1 2')).to.deep.equal({ values: [null, 1, 2] });
    const problem = (text: string) => (readSteps(samples, 16, text) as { problem: string }).problem;
    expect(problem('8 many')).to.equal('“many” is not a number.');
    expect(problem('8 70000')).to.equal('70000 is outside 4 to 65536.');
    expect(problem('8 4')).to.equal('4 is no multiple of 4 from 8 on.');
    expect(problem('16 32')).to.match(/at least 2 values other than the current one/);
    expect(problem('48 8 12 20 24 28 32 36 40 44')).to.match(/10 values are more than the 9/);
  });
});
