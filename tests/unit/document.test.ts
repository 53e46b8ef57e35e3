/** The shot document: what is refused and how it is said, canonical text, patches that come back. */
import { expect } from 'chai';
import { canonicalText } from '../../core/document/canonical.ts';
import { DIALS, dialAt, dialValue, overriddenBy } from '../../core/document/dials.ts';
import { applyPatch, invertPatch, replaceValues, type JsonPatch } from '../../core/document/patch.ts';
import { InvalidInput } from '../../core/document/problem.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { parseDocument, validateDocument } from '../../core/document/validate.ts';
import { buildJarShelf } from '../../demo/ha-010/build.ts';
import { scene, square } from './helpers.ts';

const document = () => scene([{ mesh: square(1, 0) }]).document;

/** The problems that a changed document is refused with. */
function problemsOf(change: (d: any) => void) {
  const changed = document();
  change(changed);
  try {
    validateDocument(changed, 'TEST');
  } catch (error) {
    expect(error).to.be.instanceOf(InvalidInput);
    return (error as InvalidInput).problems;
  }
  throw new Error('it was accepted');
}

describe('shot document', () => {
  it('accepts what the helpers and the demo make', async () => {
    validateDocument(document());
    validateDocument((await buildJarShelf()).document);
  });

  const refused: [string, (d: any) => void, { path: string; value?: string; expected: RegExp }][] = [
    ['an unknown key', (d) => (d.sheets.preview.smaples = 4), { path: '/sheets/preview/smaples', expected: /no such key/ }],
    ['a missing key that nothing stands for', (d) => delete d.camera, { path: '/camera', value: 'missing', expected: /a value/ }],
    ['NaN', (d) => (d.materials.part0.roughness = NaN), { path: '/materials/part0/roughness', value: 'NaN', expected: /finite/ }],
    ['an infinite number', (d) => (d.environment.colour[1] = Infinity), { path: '/environment/colour/1', value: 'Infinity', expected: /finite/ }],
    ['a negative sample count', (d) => (d.sheets.final.samples = -4), { path: '/sheets/final/samples', value: '-4', expected: /at least 4/ }],
    ['samples that are not whole groups of four', (d) => (d.sheets.final.samples = 30), { path: '/sheets/final/samples', value: '30', expected: /multiple of 4/ }],
    ['text where a number belongs', (d) => (d.sheets.preview.width = '480'), { path: '/sheets/preview/width', value: '"480"', expected: /integer/ }],
    ['a texture path that leaves the folder', (d) => (d.textures.t = { file: '../../secret.png', colourSpace: 'srgb' }), { path: '/textures/t/file', value: '"../../secret.png"', expected: /inside the shot folder/ }],
    ['an absolute path', (d) => (d.meshes.part0.file = '/etc/passwd'), { path: '/meshes/part0/file', expected: /inside the shot folder/ }],
    ['a path with backslashes', (d) => (d.meshes.part0.file = 'a\\b.glb'), { path: '/meshes/part0/file', expected: /forward slashes/ }],
    ['a colour of two values', (d) => d.materials.part0.baseColour.pop(), { path: '/materials/part0/baseColour', expected: /exactly 3 values/ }],
    ['a camera that is not there', (d) => (d.camera = 'other'), { path: '/camera', value: '"other"', expected: /id of a camera/ }],
    ['a material that is not there', (d) => (d.objects.part0.material = 'gold'), { path: '/objects/part0/material', value: '"gold"', expected: /id of a material/ }],
    ['a transform that flattens space', (d) => (d.objects.part0.transform = new Array(15).fill(0).concat(1)), { path: '/objects/part0/transform', expected: /flatten/ }],
    ['a projective transform', (d) => (d.objects.part0.transform[3] = 1), { path: '/objects/part0/transform', expected: /last row/ }],
    ['another schema version', (d) => (d.schema = 'dusting.shot/9'), { path: '/schema', value: '"dusting.shot/9"', expected: /dusting\.shot\/1/ }],
    ['an id with a slash', (d) => (d.materials['a/b'] = d.materials.part0), { path: '/materials/a~1b', expected: /no such key|id of letters/ }],
  ]; // prettier-ignore
  for (const [what, change, want] of refused)
    it(`refuses ${what}, naming the path, the value and what was expected`, () => {
      const problem = problemsOf(change).find((p) => p.path === want.path);
      expect(problem, want.path).to.not.equal(undefined);
      if (want.value) expect(problem!.value).to.equal(want.value);
      expect(problem!.expected).to.match(want.expected);
    });

  it('refuses text that is no JSON, saying where it stops being it', () => {
    expect(() => parseDocument('{"schema": ', 'HA-010/shot.json')).to.throw(
      InvalidInput,
      /HA-010\/shot\.json.*JSON text/,
    );
  });

  it('names every problem at once', () => {
    const problems = problemsOf((d) => {
      d.sheets.preview.samples = -4;
      d.sheets.final.limits.overall = 900;
    });
    expect(problems.map((p) => p.path)).to.have.members(['/sheets/preview/samples', '/sheets/final/limits/overall']);
  });
});

describe('canonical text', () => {
  it('writes the example of RFC 8785, section 3.2.2', () => {
    const value = JSON.parse(
      String.raw`{
        "numbers": [333333333.33333329, 1E30, 4.50, 2e-3, 0.000000000000000000000000001],
        "string": "\u20ac$\u000F\u000aA'\u0042\u0022\u005c\\\"\/",
        "literals": [null, true, false]
      }`,
    );
    expect(canonicalText(value)).to.equal(
      '{"literals":[null,true,false],"numbers":[333333333.3333333,1e+30,4.5,0.002,1e-27],' +
        '"string":"€$\\u000f\\nA\'B\\"\\\\\\\\\\"/"}',
    );
  });

  it('sorts keys by UTF-16 code units (RFC 8785, section 3.2.3)', () => {
    const value = { '\u20ac': 1, '\r': 2, '\ufb33': 3, '1': 4, '\ud83d\ude00': 5, '\u0080': 6, '\u00f6': 7 };
    const order = [...canonicalText(value).matchAll(/:(\d)/g)].map((m) => m[1]).join('');
    expect(order).to.equal('2467153');
  });

  it('does not depend on the order that keys were written in', () => {
    const d = document();
    const turned = JSON.parse(JSON.stringify(d), (_key, value) =>
      value && typeof value === 'object' && !Array.isArray(value)
        ? Object.fromEntries(Object.entries(value).reverse())
        : value,
    );
    expect(canonicalText(turned)).to.equal(canonicalText(d));
  });
});

describe('patches', () => {
  // RFC 6902, appendix A: the cases with a result.
  const cases: [string, object, JsonPatch, object][] = [
    ['A.1', { foo: 'bar' }, [{ op: 'add', path: '/baz', value: 'qux' }], { baz: 'qux', foo: 'bar' }],
    ['A.2', { foo: ['bar', 'baz'] }, [{ op: 'add', path: '/foo/1', value: 'qux' }], { foo: ['bar', 'qux', 'baz'] }],
    ['A.3', { baz: 'qux', foo: 'bar' }, [{ op: 'remove', path: '/baz' }], { foo: 'bar' }],
    ['A.4', { foo: ['bar', 'qux', 'baz'] }, [{ op: 'remove', path: '/foo/1' }], { foo: ['bar', 'baz'] }],
    ['A.5', { baz: 'qux', foo: 'bar' }, [{ op: 'replace', path: '/baz', value: 'boo' }], { baz: 'boo', foo: 'bar' }],
    ['A.6', { foo: { bar: 'baz', waldo: 'fred' }, qux: { corge: 'grault' } }, [{ op: 'move', from: '/foo/waldo', path: '/qux/thud' }], { foo: { bar: 'baz' }, qux: { corge: 'grault', thud: 'fred' } }],
    ['A.7', { foo: ['all', 'grass', 'cows', 'eat'] }, [{ op: 'move', from: '/foo/1', path: '/foo/3' }], { foo: ['all', 'cows', 'eat', 'grass'] }],
    ['A.8', { baz: 'qux', foo: ['a', 2, 'c'] }, [{ op: 'test', path: '/baz', value: 'qux' }, { op: 'test', path: '/foo/1', value: 2 }], { baz: 'qux', foo: ['a', 2, 'c'] }],
    ['A.10', { foo: 'bar' }, [{ op: 'add', path: '/child', value: { grandchild: {} } }], { foo: 'bar', child: { grandchild: {} } }],
    ['A.14', { '/': 9, '~1': 10 }, [{ op: 'test', path: '/~01', value: 10 }], { '/': 9, '~1': 10 }],
    ['A.16', { foo: ['bar'] }, [{ op: 'add', path: '/foo/-', value: ['abc', 'def'] }], { foo: ['bar', ['abc', 'def']] }],
  ]; // prettier-ignore
  for (const [name, before, patch, after] of cases)
    it(`does example ${name} of RFC 6902`, () => expect(applyPatch(before, patch)).to.deep.equal(after));

  // Appendix A: the cases that must fail.
  const failing: [string, object, JsonPatch][] = [
    ['A.9', { baz: 'qux' }, [{ op: 'test', path: '/baz', value: 'bar' }]],
    ['A.12', { foo: 'bar' }, [{ op: 'add', path: '/baz/bat', value: 'qux' }]],
    ['A.15', { '/': 9, '~1': 10 }, [{ op: 'test', path: '/~01', value: '10' }]],
  ];
  for (const [name, before, patch] of failing)
    it(`refuses example ${name} of RFC 6902 and leaves the document alone`, () => {
      const text = canonicalText(before);
      expect(() => applyPatch(before, patch)).to.throw(InvalidInput);
      expect(canonicalText(before)).to.equal(text);
    });

  it('begins with a test of what it replaces, so that it fails on another document', () => {
    const d = document();
    const patch = replaceValues(d, { '/sheets/preview/limits/transmission': 20 });
    expect(patch.map((step) => step.op)).to.deep.equal(['test', 'replace']);
    const other = document();
    other.sheets.preview.limits.transmission = 3;
    expect(() => applyPatch(other, patch)).to.throw(InvalidInput, /limits\/transmission is 3, expected 64/);
  });

  it('gives the same bytes back when it is taken back', async () => {
    const { document: d } = await buildJarShelf();
    const before = canonicalText(d);
    const patch = replaceValues(d, {
      '/sheets/preview/limits/transmission': 26,
      '/sheets/final/extraSamples/diffuse': 4,
      '/materials/glass/attenuationColour': [0.5, 0.6, 0.7],
      '/objects/tray/name': 'tray',
    });
    const after = applyPatch(d, patch);
    expect(canonicalText(after)).to.not.equal(before);
    expect(canonicalText(applyPatch(after, invertPatch(d, patch)))).to.equal(before);
    expect(canonicalText(d)).to.equal(before);
  });

  it('leaves out what stands like that already, and refuses places that are not there', () => {
    const d = document();
    expect(replaceValues(d, { '/sheets/preview/samples': d.sheets.preview.samples })).to.deep.equal([]);
    expect(() => replaceValues(d, { '/sheets/rehearsal/samples': 4 })).to.throw(
      InvalidInput,
      /expected a place that exists/,
    );
  });
});

describe('dials', () => {
  const sheet = () => document().sheets.preview;
  const withValue = (pointer: string, value: unknown): ShotDocument => {
    const d = document();
    return applyPatch(d, [{ op: 'replace', path: `/sheets/preview${pointer}`, value }]);
  };

  it('cover every value of a sheet, once', () => {
    const leaves = (value: object, at = ''): string[] =>
      Object.entries(value).flatMap(([key, child]) =>
        child !== null && typeof child === 'object' && !Array.isArray(child)
          ? leaves(child as object, `${at}/${key}`)
          : [`${at}/${key}`],
      );
    expect(DIALS.map((d) => d.pointer)).to.have.members(leaves(sheet()));
  });

  for (const dial of DIALS.filter((d) => d.kind === 'number'))
    it(`give ${dial.label} the range that documents are held to`, () => {
      validateDocument(withValue(dial.pointer, dial.min));
      validateDocument(withValue(dial.pointer, dial.max));
      expect(() => validateDocument(withValue(dial.pointer, dial.min! - dial.step!))).to.throw(InvalidInput);
      expect(() => validateDocument(withValue(dial.pointer, dial.max! + dial.step!))).to.throw(InvalidInput);
    });

  it('say when the overall limit decides before a kind’s own', () => {
    const s = sheet();
    s.limits = { diffuse: 4, specular: 4, transmission: 20, volume: 2, alpha: 16, overall: 10 };
    expect(overriddenBy(s, '/limits/transmission')).to.equal('overall 10 decides first');
    expect(overriddenBy(s, '/limits/diffuse')).to.equal(null);
    expect(overriddenBy(s, '/samples')).to.equal(null);
    expect(dialValue(s, '/limits/overall')).to.equal(10);
    expect(() => dialAt('/limits/other')).to.throw(RangeError);
  });
});
