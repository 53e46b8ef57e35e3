/** Values as patches: RFC 6902, with the tests that make a patch fail where it was not made for. */
import { expect } from 'chai';
import { canonicalText } from '../../core/document/canonical.ts';
import { defaultLight } from '../../core/document/defaults.ts';
import { applyPatch, invertPatch } from '../../core/document/patch.ts';
import { InvalidInput } from '../../core/document/problem.ts';
import { valuesPatch, withValues } from '../../core/document/set-values.ts';
import { sphere, scene } from './helpers.ts';

describe('values set', () => {
  const { document } = scene([{ mesh: sphere(1), object: { name: 'ball' } }]);
  const values = {
    '/samples': 128,
    '/objects/part0/thin': true,
    '/lights/fill': { ...defaultLight('point'), intensity: 2 },
  };

  it('go into the sheets that are meant, into the scene once, and add what is not there', () => {
    const after = withValues(document, ['preview', 'final'], values);
    expect([after.sheets.preview.samples, after.sheets.final.samples]).to.deep.equal([128, 128]);
    expect(after.objects.part0.thin).to.equal(true);
    expect(after.lights.fill).to.include({ kind: 'point', intensity: 2 });
    expect(withValues(document, ['preview'], values).sheets.final.samples).to.equal(document.sheets.final.samples);
  });

  it('are taken back to the same bytes', () => {
    const patch = valuesPatch(document, ['preview'], values);
    const back = applyPatch(applyPatch(document, patch), invertPatch(document, patch));
    expect(canonicalText(back)).to.equal(canonicalText(document));
  });

  it('do not land on what came to be there meanwhile', () => {
    const patch = valuesPatch(document, ['preview'], values);
    const other = withValues(document, ['preview'], { '/lights/fill': defaultLight('disc') });
    expect(() => applyPatch(other, patch)).to.throw(InvalidInput, /\/lights\/fill/);
  });

  it('that lead nowhere, or are no item, are refused by name', () => {
    expect(() => valuesPatch(document, ['preview'], { '/objects/gone/thin': true })).to.throw(InvalidInput, /\/objects\/gone\/thin/); // prettier-ignore
    expect(() => withValues(document, ['preview'], { '/lights/fill': { kind: 'lamp' } })).to.throw(InvalidInput);
  });
});
