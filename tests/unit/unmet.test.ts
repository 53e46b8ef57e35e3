/** What chance has not met yet: the estimate of Good (1953) against draws whose truth is known. */
import { expect } from 'chai';
import { unmetIn, unmetShare } from '../../core/picture/unmet.ts';
import { randomNumbers } from './size.ts';

describe('what chance has not met', () => {
  it('is the share of those that were met once, with the error of Esty (1983)', () => {
    // By hand: of six meetings two were with kinds met once, none twice.
    const { share, error } = unmetShare([1, 1, 4])!;
    expect(share).to.equal(1 / 3);
    expect(error).to.be.closeTo(Math.sqrt(2 * (2 / 3)) / 6, 1e-12);
    expect(unmetShare([2, 2])!.share).to.equal(0);
    expect(unmetShare([])).to.equal(null);
    expect(unmetShare([0, 0])).to.equal(null);
  });

  it('holds for kinds of very different frequency: the truth lies within two errors in 19 of 20 draws', () => {
    const kinds = Array.from({ length: 400 }, (_, k) => 1 / (k + 1));
    const all = kinds.reduce((a, b) => a + b, 0);
    const random = randomNumbers(20);
    let within = 0;
    for (let draw = 0; draw < 200; draw++) {
      const counts = new Array<number>(kinds.length).fill(0);
      for (let n = 0; n < 300; n++) {
        let u = random() * all;
        let k = 0;
        while (k < kinds.length - 1 && u >= kinds[k]) u -= kinds[k++];
        counts[k] += 1;
      }
      const truth = kinds.reduce((sum, p, k) => sum + (counts[k] === 0 ? p / all : 0), 0);
      const { share, error } = unmetShare(counts)!;
      within += Number(Math.abs(share - truth) <= 2 * error);
    }
    expect(within).to.be.at.least(180);
  });

  it('takes neighbouring pixels for one place, and rows that end and begin for two', () => {
    const width = 600;
    expect(unmetIn([0, 1, width + 2], width)!.share).to.equal(0);
    expect(unmetIn([0, 300, 299 * width + 599], width)!.share).to.equal(1);
    expect(unmetIn([599, 600], width)!.share).to.equal(1);
  });
});
