/** The builder of trees in WebAssembly against its TypeScript twin: the same trees, number for number. */
import { expect } from 'chai';
import { buildBvh } from '../../core/geometry/bvh-build.ts';
import { lentByHost } from '../../host/kernel.ts';
import { atSize, randomNumbers } from './size.ts';

const random = randomNumbers(1);
const boxesOf = (count: number, place: (i: number) => number, size: () => number): Float32Array => {
  const boxes = new Float32Array(count * 6);
  for (let i = 0; i < count; i++)
    for (let a = 0; a < 3; a++) {
      boxes[i * 6 + a] = place(i * 3 + a);
      boxes[i * 6 + 3 + a] = boxes[i * 6 + a] + size();
    }
  return boxes;
};

describe('tree building kernel', () => {
  const cases: [string, Float32Array][] = [
    ['boxes here and there', boxesOf(5000, () => random() * 10, random)],
    ['points', boxesOf(900, () => random() - 0.5, () => 0)],
    ['boxes in a row', boxesOf(700, (k) => (k % 3 === 1 ? random() * 1e4 : 2), () => 0.5)],
    ['boxes in one place', boxesOf(61, () => 3, () => 1)],
    ['boxes whose sizes and places differ by many orders', boxesOf(2000, () => 10 ** (random() * 30 - 15), () => 10 ** (random() * 30 - 20))],
    ['boxes too large for their centres', boxesOf(40, () => -3e38 * random(), () => 3e38)],
    ['one box', boxesOf(1, random, random)],
    ['nothing', new Float32Array(0)],
    ['many boxes', boxesOf(atSize(60_000, 2_000_000), random, () => random() * 0.01)],
  ]; // prettier-ignore
  for (const [name, boxes] of cases)
    for (const leaf of [1, 4])
      it(`makes the twin’s tree: ${name}, leaves of ${leaf}`, () => {
        const [kernel, twin] = [lentByHost.buildBvh(boxes, leaf), buildBvh(boxes, leaf)];
        expect(kernel.nodeCount).to.equal(twin.nodeCount);
        expect(sameNumbers(kernel.order, twin.order), 'order').to.equal(true);
        expect(sameNumbers(kernel.links, twin.links), 'links').to.equal(true);
        expect(sameNumbers(kernel.bounds, twin.bounds), 'boxes').to.equal(true);
      });

  it('gives arrays of its own in the memory asked for, which the next tree leaves alone', () => {
    const first = lentByHost.buildBvh(cases[0][1], 4, (bytes) => new SharedArrayBuffer(bytes));
    const order = [...first.order];
    expect(first.bounds.buffer).to.be.instanceOf(SharedArrayBuffer);
    lentByHost.buildBvh(cases[4][1], 4);
    expect([...first.order]).to.deep.equal(order);
  });
});

function sameNumbers(a: ArrayLike<number>, b: ArrayLike<number>): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}
