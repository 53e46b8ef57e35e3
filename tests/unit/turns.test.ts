import { expect } from 'chai';
import { turn } from '../../core/data/turns.ts';

describe('angles in turns', () => {
  const out = new Float64Array(2);
  const of = (turns: number) => {
    turn(turns, out);
    return [out[0], out[1]];
  };

  it('have the cosine and sine of the engine’s own functions to the last digits, in every octant', () => {
    for (let k = 0; k < 2000; k++) {
      const turns = (k + 0.37) / 2000;
      const [cos, sin] = of(turns);
      expect(cos).to.be.closeTo(Math.cos(2 * Math.PI * turns), 7e-16);
      expect(sin).to.be.closeTo(Math.sin(2 * Math.PI * turns), 7e-16);
      expect(cos * cos + sin * sin).to.be.closeTo(1, 5e-16);
    }
  });

  it('are exact at quarters (by definition)', () => {
    expect([0, 0.25, 0.5, 0.75].map((t) => of(t).map((v) => v + 0))).to.deep.equal([[1, 0], [0, 1], [-1, 0], [0, -1]]); // prettier-ignore
  });
});
