/** Regions that are moved and sized from the keyboard, or set about a pixel. */
import { expect } from 'chai';
import { regionAround, regionByKey } from '../../web/viewer/region.ts';

describe('a region', () => {
  const frame = { width: 100, height: 60 };
  const key = (name: string, more: object = {}) => ({ key: name, shiftKey: false, ctrlKey: false, metaKey: false, ...more }); // prettier-ignore
  const region = { x: 20, y: 20, width: 30, height: 20 };

  it('is moved by arrows, finely with Ctrl, and stops at the frame', () => {
    expect(regionByKey(key('ArrowRight'), region, frame)).to.deep.equal({ ...region, x: 28 });
    expect(regionByKey(key('ArrowUp', { ctrlKey: true }), region, frame)).to.deep.equal({ ...region, y: 19 });
    expect(regionByKey(key('ArrowLeft'), { ...region, x: 3 }, frame)).to.deep.equal({ ...region, x: 0 });
    expect(regionByKey(key('ArrowDown'), { ...region, y: 39 }, frame)).to.deep.equal({ ...region, y: 40 });
  });

  it('is sized with Shift, no smaller than a trial can use and no larger than the frame', () => {
    expect(regionByKey(key('ArrowRight', { shiftKey: true }), region, frame)).to.deep.equal({ ...region, width: 38 });
    expect(regionByKey(key('ArrowLeft', { shiftKey: true }), { ...region, width: 6 }, frame)).to.deep.equal({ ...region, width: 4 });
    expect(regionByKey(key('ArrowDown', { shiftKey: true }), { ...region, height: 38 }, frame)).to.deep.equal({ ...region, height: 40 });
  }); // prettier-ignore

  it('leaves other keys alone', () => {
    for (const name of ['Enter', 'g', 'Escape']) expect(regionByKey(key(name), region, frame)).to.equal(null);
  });

  it('lies about a pixel, inside the frame, as large as fits', () => {
    expect(regionAround({ x: 50, y: 30 }, frame, 20)).to.deep.equal({ x: 40, y: 20, width: 20, height: 20 });
    expect(regionAround({ x: 1, y: 59 }, frame, 20)).to.deep.equal({ x: 0, y: 40, width: 20, height: 20 });
    expect(regionAround({ x: 50, y: 30 }, frame, 200)).to.deep.equal({ x: 0, y: 0, ...frame });
  });
});
