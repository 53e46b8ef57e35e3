/** Names of numbers that are dragged sideways. */
import { expect } from 'chai';
import { dialAt } from '../../core/document/dials.ts';
import { scrubbed } from '../../web/scrub.ts';

describe('scrubbing', () => {
  it('moves counts by whole steps, and never out of their range', () => {
    expect(scrubbed(dialAt('/limits/transmission'), 2, 60)).to.equal(12);
    expect(scrubbed(dialAt('/limits/transmission'), 2, -600)).to.equal(0);
    expect(scrubbed(dialAt('/samples'), 16, 12)).to.equal(24);
    expect(scrubbed(dialAt('/samples'), 16, 5)).to.equal(16);
  });
  it('moves a short range evenly, and what has no end by a share of itself', () => {
    expect(scrubbed({ kind: 'number', min: 0, max: 1, whole: false, digits: 4 }, 0.5, 60)).to.be.closeTo(0.7, 1e-9);
    expect(scrubbed({ kind: 'number', min: 0, whole: false, digits: 4 }, 10, 6)).to.be.closeTo(10.5, 1e-9);
    expect(scrubbed({ kind: 'number', min: 0, step: 0.5, whole: false, digits: 4 }, 0, 12)).to.equal(1);
  });
});
