/** Paths of a shot's files: ordinary ones are taken, what could lead or look elsewhere is not. */
import { expect } from 'chai';
import fc from 'fast-check';
import { resolve, sep } from 'node:path';
import { faultOfPath, isReservedName, isSafePath } from '../../core/document/safe-path.ts';
import { DEEPEST, jsonDepth, parseJson } from '../../core/document/json-text.ts';
import { safeId } from '../../core/intake/ids.ts';
import { placeIn } from '../../host/place-in.ts';

describe('paths of a shot', () => {
  it('are taken as people write them', () => {
    for (const path of [
      'shot.json',
      'geometry/jars.glb',
      'textures/wax.1001.png',
      'textures/wax.<UDIM>.exr',
      'Honig Gläser/über alles (2).png',
      'a/.hidden',
    ])
      expect(faultOfPath(path), path).to.equal(null);
  });

  it('lead nowhere else, whatever they are made of: they stay in their folder or are refused', () => {
    const pieces = fc.constantFrom('..', '.', '/', '\\', 'a', 'b.png', ' ', ':', '\n', '\r', '\u2028', '\u2029', '\0', '~', '%2e%2e', 'C:', '\u202e', 'nul', '…'); // prettier-ignore
    const path = fc.oneof(
      fc.string({ unit: 'binary', maxLength: 60 }),
      fc.array(pieces, { maxLength: 12 }).map((all) => all.join('')),
    );
    fc.assert(
      fc.property(path, (text) => {
        let place: string;
        try {
          place = placeIn('/data/uploads/own', text);
        } catch (error) {
          expect(error).to.be.instanceOf(RangeError);
          expect(isSafePath(text)).to.equal(false);
          return;
        }
        expect(place.startsWith(`${resolve('/data/uploads/own')}${sep}`), JSON.stringify(text)).to.equal(true);
        // eslint-disable-next-line no-control-regex -- controls are what is looked for
        expect(place).to.not.match(/[\u0000-\u001f\u2028\u2029]|(^|\/)\.\.?(\/|$)/);
      }),
      { numRuns: 3000 },
    );
  });

  it('say what is wrong with them', () => {
    expect(faultOfPath('../a')).to.match(/leaves its folder/);
    expect(faultOfPath('/a')).to.match(/does not begin in the folder/);
    expect(faultOfPath('a//b')).to.match(/empty part/);
    expect(faultOfPath('a\n/../b')).to.match(/control character/);
    expect(faultOfPath('textures/Aux.exr')).to.match(/"Aux\.exr" is the name of a device/);
    expect(faultOfPath('a. ')).to.match(/ends in a dot or a space/);
    expect(faultOfPath('ä'.repeat(128))).to.match(/more than 255 bytes/);
    expect(faultOfPath('a/'.repeat(300))).to.match(/more than 500 characters/);
  });

  it('and ids hold no name that every object has', () => {
    for (const name of Object.getOwnPropertyNames(Object.prototype)) {
      expect(isReservedName(name)).to.equal(true);
      expect(isSafePath(name)).to.equal(false);
      expect(isReservedName(safeId(name)), name).to.equal(false);
    }
    expect(safeId('constructor')).to.equal('constructor-1');
  });
});

describe('JSON text', () => {
  it('is measured without being made: brackets in quotes do not count', () => {
    expect(jsonDepth('{"a":[1,{"b":"[[[[\\"[["}]}')).to.equal(3);
    expect(jsonDepth('"[[["')).to.equal(0);
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 6 }), (value) => {
        const depth = (one: unknown): number =>
          typeof one === 'object' && one !== null ? 1 + Math.max(0, ...Object.values(one).map(depth)) : 0;
        expect(jsonDepth(JSON.stringify(value))).to.equal(depth(value));
      }),
    );
  });

  it('is refused when it nests deeper than anything that walks it should go', () => {
    const deep = (levels: number) => '['.repeat(levels) + ']'.repeat(levels);
    expect(parseJson(deep(DEEPEST), 'it')).to.be.an('array');
    expect(() => parseJson(deep(DEEPEST + 1), 'it')).to.throw(/nested 65 deep, expected at most 64 levels/);
  });
});
