/** What hosts write to a kernel's memory. */
import { expect } from 'chai';
import { StructureWriter, type Layouts } from '../../core/data/structures.ts';

const layouts: Layouts = {
  Lamp: [
    ['count', 'i32'],
    ['isOn', 'bool'],
    ['power', 'f64'],
    ['places', 'array'],
    ['shade', 'struct', 'Shade'],
    ['others', 'list', 'struct', 'Shade'],
  ],
  Shade: [['width', 'i32']],
};

function writer(placed?: WeakMap<object, number>) {
  const memory = { buffer: new ArrayBuffer(4096) };
  let next = 64;
  const reserve = (bytes: number) => {
    const at = next;
    next += Math.ceil(bytes / 16) * 16 + 16;
    return at;
  };
  return { view: new DataView(memory.buffer), write: new StructureWriter(layouts, memory, reserve, placed) };
}

describe('structures in memory', () => {
  const shade = { width: 7 };
  const lamp = { count: 3, isOn: true, power: 2.5, places: Float64Array.of(1, 2, 4), shade, others: [shade, { width: 9 }], name: 'removed' }; // prettier-ignore

  it('have their fields in order, each on a boundary of its own size', () => {
    const { view, write } = writer();
    const at = write.write('Lamp', lamp);
    expect(view.getInt32(at, true)).to.equal(3);
    expect(view.getUint8(at + 4)).to.equal(1);
    expect(view.getFloat64(at + 8, true)).to.equal(2.5);
    const places = view.getUint32(at + 16, true);
    expect(view.getInt32(places - 8, true)).to.equal(3);
    expect(view.getFloat64(places + 16, true)).to.equal(4);
    expect(view.getInt32(view.getUint32(at + 20, true), true)).to.equal(7);
    const others = view.getUint32(at + 24, true);
    expect(view.getInt32(others - 8, true)).to.equal(2);
    expect(view.getInt32(view.getUint32(others + 4, true), true)).to.equal(9);
  });

  it('are written once, and so are arrays and what lists hold', () => {
    const { view, write } = writer();
    const at = write.write('Lamp', lamp);
    expect(view.getUint32(view.getUint32(at + 24, true), true)).to.equal(view.getUint32(at + 20, true));
    expect(write.write('Lamp', lamp)).to.equal(at);
  });

  it('have 0 for null, and name a field that does not fit', () => {
    const { view, write } = writer();
    expect(view.getUint32(write.write('Lamp', { ...lamp, shade: null }) + 20, true)).to.equal(0);
    expect(() => write.write('Lamp', { ...lamp, places: 'here' })).to.throw(
      TypeError,
      'Lamp.places cannot be written as array',
    );
  });
});
