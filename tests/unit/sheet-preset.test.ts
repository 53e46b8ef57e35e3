/** A sheet saved as a preset and taken into another: whole, in part, and refused by name where it does not fit. */
import { expect } from 'chai';
import { DIALS, dialValue } from '../../core/document/dials.ts';
import { presetText, presetValues } from '../../core/document/sheet-preset.ts';
import { withValues } from '../../core/document/set-values.ts';
import { scene, square } from './helpers.ts';

const { document } = scene([{ mesh: square(1, 0) }], {}, { samples: 128, seed: 7, limits: { diffuse: 3, specular: 2, transmission: 11, volume: 1, alpha: 8, overall: 14 } }); // prettier-ignore
const other = scene([{ mesh: square(1, 0) }], {}, { samples: 16 }).document;
const preset = (dials: unknown, schema = 'dusting.sheet/1') => JSON.stringify({ schema, name: 'mine', dials });
const refused = (text: string): string => {
  try {
    presetValues(text, other, 'final');
    return '';
  } catch (error) {
    return (error as Error).message;
  }
};

describe('a preset of a sheet', () => {
  it('carries every dial to another shot, and nothing that stands there already', () => {
    const { name, values } = presetValues(presetText('night', document.sheets.preview), other, 'preview');
    expect(name).to.equal('night');
    expect(Object.keys(values)).to.include.members(['/samples', '/seed', '/limits/transmission']);
    expect(values).not.to.have.property('/width');
    const after = withValues(other, ['preview'], values);
    for (const { pointer } of DIALS) expect(dialValue(after.sheets.preview, pointer), pointer).to.deep.equal(dialValue(document.sheets.preview, pointer)); // prettier-ignore
    expect(presetValues(presetText('night', after.sheets.preview), after, 'preview').values).to.deep.equal({});
  });

  it('may hold a few dials', () => {
    expect(presetValues(preset({ '/samples': 64 }), other, 'final')).to.deep.equal({ name: 'mine', values: { '/samples': 64 } }); // prettier-ignore
  });

  it('is refused where it is none, names no dial, or holds what a dial cannot take', () => {
    expect(refused('{ "samples": 3')).to.match(/^preset: .*expected JSON/);
    expect(refused(preset({}, 'dusting.shot/1'))).to.match(
      /\/schema is "dusting\.shot\/1", expected dusting\.sheet\/1/,
    );
    expect(refused(preset([1]))).to.match(/\/dials is \[1\]/);
    expect(refused(preset({ '/speed': 3 }))).to.match(/\/speed is given, expected a dial of a sheet/);
    expect(refused(preset({ '/samples': 5 }))).to.match(/\/sheets\/final\/samples is 5/);
    expect(refused(preset({ '/filter/kind': 'sharp' }))).to.match(/\/sheets\/final\/filter\/kind/);
  });
});
