/** What must hold for any input: patches and their inverses, alike items, the view in the address. By fast-check. */
import { expect } from 'chai';
import fc from 'fast-check';
import { createPinia, setActivePinia } from 'pinia';
import { alikeItems, forItems } from '../../core/document/alike-items.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import { DIALS } from '../../core/document/dials.ts';
import { applyPatch, invertPatch, replaceValues } from '../../core/document/patch.ts';
import { placesOf, pointerOf } from '../../core/document/pointers.ts';
import type { SheetName } from '../../core/document/schema.ts';
import { valuesPatch } from '../../core/document/set-values.ts';
import { kneeOf } from '../../core/diagnose/knee.ts';
import { byUrgency } from '../../core/diagnose/order.ts';
import { tellAmount } from '../../core/figures/effect.ts';
import type { Unit } from '../../core/figures/figure.ts';
import { useView } from '../../web/stores/view.ts';
import { smallShot } from '../api/small-shot.ts';

/** Numbers that dials of a sheet can take. */
const numberDials = DIALS.filter(({ kind, none }) => kind === 'number' && none === undefined);
const dialValues = fc
  .uniqueArray(fc.constantFrom(...numberDials), { minLength: 1, maxLength: 6, selector: ({ pointer }) => pointer })
  .chain((dials) =>
    fc.tuple(
      ...dials.map(({ pointer, min = 0, max = 100 }) =>
        fc.integer({ min: Math.ceil(min), max: Math.floor(max) }).map((value) => [pointer, value] as const),
      ),
    ),
  ) // prettier-ignore
  .map((pairs) => Object.fromEntries(pairs));

describe('for any input', function () {
  this.timeout(60_000);

  it('a patch and its inverse come back to the same bytes', async () => {
    const { document } = await smallShot('PROPERTY');
    const before = canonicalText(document);
    fc.assert(
      fc.property(
        dialValues,
        fc.constantFrom<SheetName[]>(['preview'], ['final'], ['preview', 'final']),
        (values, sheets) => {
          const patch = valuesPatch(document, sheets, values);
          const after = applyPatch(document, patch);
          expect(canonicalText(document), 'it stays as it is').to.equal(before);
          expect(canonicalText(applyPatch(after, invertPatch(document, patch)))).to.equal(before);
          // What stands like that already changes nothing.
          expect(valuesPatch(after, sheets, values)).to.deep.equal([]);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('a patch made for another document fails instead of landing', async () => {
    const { document } = await smallShot('PROPERTY');
    fc.assert(
      fc.property(fc.integer({ min: 8, max: 4096 }), fc.integer({ min: 1, max: 100 }), (samples, more) => {
        const path = '/sheets/preview/samples';
        const patch = replaceValues(document, { [path]: samples });
        fc.pre(patch.length > 0 && samples + more !== document.sheets.preview.samples);
        const other = applyPatch(document, replaceValues(document, { [path]: samples + more }));
        expect(() => applyPatch(other, patch)).to.throw(/which the patch was made for/);
      }),
      { numRuns: 40 },
    );
  });

  it('alike items are those that get the same values, and a part of them keeps the rest', () => {
    const id = fc.stringMatching(/^[a-z][a-z0-9-]{0,8}$/);
    fc.assert(
      fc.property(fc.uniqueArray(id, { minLength: 2, maxLength: 6 }), id, fc.boolean(), (ids, odd, flag) => {
        fc.pre(!ids.includes(odd));
        const alike = Object.fromEntries(ids.map((one) => [`/objects/${one}/thin`, flag]));
        const values = { ...alike, [`/objects/${odd}/hidden`]: true, '/samples': 8 };
        const items = alikeItems(values);
        expect([...items].sort()).to.deep.equal(ids.map((one) => `/objects/${one}`).sort());
        const few = forItems(values, items.slice(1));
        expect(Object.keys(few)).to.have.length(Object.keys(values).length - 1);
        expect(few).to.include({ [`/objects/${odd}/hidden`]: true, '/samples': 8 });
        expect(forItems(values, items)).to.deep.equal(values);
      }),
    );
  });

  it('a pointer and its places are each other’s', () => {
    const pointer = fc.constantFrom(...DIALS.map((dial) => dial.pointer), '/lights/sun/angle', '/objects/jar/thin');
    fc.assert(fc.property(pointer, (one) => placesOf(one, ['preview', 'final']).every((place) => pointerOf(place) === one))); // prettier-ignore
  });

  it('the view that an address says is the view whose address it is', () => {
    const region = fc.record({ x: fc.nat(4000), y: fc.nat(4000), width: fc.integer({ min: 1, max: 4000 }), height: fc.integer({ min: 1, max: 4000 }) }); // prettier-ignore
    const state = fc.record({
      pass: fc.constantFrom('beauty', 'crossings', 'cut.transmission', 'shadow.sun'),
      exposure: fc.integer({ min: -20, max: 20 }).map((halves) => halves / 2),
      region: fc.option(region, { nil: null }),
      trialId: fc.option(fc.integer({ min: 1, max: 1e6 }), { nil: null }),
      panel: fc.constantFrom('findings', 'sheets', 'scene', 'budget'),
    });
    fc.assert(
      fc.property(state, (wanted) => {
        setActivePinia(createPinia());
        const view = useView();
        view.$patch(wanted as never);
        const query = { ...view.query };
        setActivePinia(createPinia());
        const other = useView();
        other.fromQuery(query);
        expect({ ...other.query }).to.deep.equal(query);
        for (const [key, value] of Object.entries(wanted)) expect(other[key as keyof typeof other], key).to.deep.equal(value); // prettier-ignore
      }),
    );
  });

  it('the order of urgency keeps all, and nothing stands before what it waits for', () => {
    const severity = fc.constantFrom('stop', 'caution', 'note') as fc.Arbitrary<'stop' | 'caution' | 'note'>;
    fc.assert(
      fc.property(fc.array(severity, { minLength: 1, maxLength: 8 }), fc.nat(7), (severities, k) => {
        const found = severities.map((own, i) => ({ finding: { key: String(i), severity: own, after: i > 0 && i === k ? ['0'] : undefined } })); // prettier-ignore
        const keys = byUrgency(found).map(({ finding }) => finding.key);
        expect([...keys].sort()).to.deep.equal(found.map(({ finding }) => finding.key).sort());
        if (k > 0 && k < found.length) expect(keys.indexOf('0')).to.be.below(keys.indexOf(String(k)));
      }),
    );
  });

  it('a knee lies on its curve, and amounts have their unit', () => {
    const rising = fc.array(fc.double({ min: 0, max: 10, noNaN: true }), { minLength: 2, maxLength: 30 }).map((steps) => steps.reduce<[number, number][]>((all, step, i) => [...all, [i, (all.at(-1)?.[1] ?? 0) + step]], [])); // prettier-ignore
    fc.assert(fc.property(rising, (points) => kneeOf(points) >= 0 && kneeOf(points) < points.length));
    const units: [Unit, RegExp][] = [['steps', / of 255$/], ['bytes', / [kMGT]?B$/], ['seconds', / (s|min|h)$/], ['share', / %$/], ['rays', / rays$/], ['metres', / m?m$/], ['bits', / bits$/]]; // prettier-ignore
    fc.assert(fc.property(fc.double({ min: 0, max: 1e12, noNaN: true }), (value) => units.every(([unit, shape]) => shape.test(tellAmount(unit, value))))); // prettier-ignore
  });
});
