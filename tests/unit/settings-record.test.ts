/** Records of settings, and plans in their numbers; worked by hand. */
import { expect } from 'chai';
import { inNumbers } from '../../core/diagnose/noise/plan-in-numbers.ts';
import { millraceTarget } from '../../core/intake/fit/targets/millrace.ts';
import { kindOfPass, readSettings, samplesIn, settingsOfAttributes } from '../../core/picture/settings-record.ts';

describe('a record of settings', () => {
  it('is read from JSON, from CSV and from attributes, whatever its names', () => {
    const json = readSettings('{"render": {"pixelSamples": 64, "diffuse_samples": 2, "name": "lantern"}}', 'a.json');
    expect(samplesIn(json, 'pixel')).to.deep.equal({ name: 'render/pixelSamples', value: 64 });
    expect(samplesIn(json, 'diffuse')).to.deep.equal({ name: 'render/diffuse_samples', value: 2 });
    expect(samplesIn(json, 'light')).to.equal(null);
    const csv = readSettings('setting,value\nspp,128\n"reflection samples";4\n', 'a.csv');
    expect(samplesIn(csv, 'pixel')).to.deep.equal({ name: 'spp', value: 128 });
    expect(samplesIn(csv, 'specular')!.value).to.equal(4);
    const own = settingsOfAttributes({ 'dusting/samples': '32', software: 'Dusting', 'dusting/renderSeconds': '' });
    expect(samplesIn(own, 'pixel')).to.deep.equal({ name: 'dusting/samples', value: 32 });
  });

  it('is refused with the line that is no number, and where it holds none', () => {
    const problem = (text: string) => {
      try {
        readSettings(text, 'a.csv');
        return '';
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(problem('spp,16\nlight samples,many')).to.match(/a\.csv.*line 2.*many.*a number/);
    expect(problem('spp,16\nlight samples')).to.match(/line 2.*a name and a number/);
    expect(problem('{"name": "lantern"}')).to.match(/a name with a number/);
    expect(problem('{"spp": ')).to.match(/JSON text/);
  });

  it('knows what a pass is made of', () => {
    expect(['diffuse.indirect', 'glossy', 'refraction', 'specular.direct', 'sss'].map(kindOfPass)).to.deep.equal(['diffuse', 'specular', 'transmission', 'light', null]); // prettier-ignore
  });
});

describe('a plan in numbers', () => {
  const record = new Map([['spp', 64], ['diffuse samples', 2]]); // prettier-ignore
  it('multiplies what stands there, and is silent where nothing does', () => {
    expect(inNumbers({ record, target: null }, 4.8, null)).to.include({ name: 'spp', from: 64, to: 308 });
    expect(inNumbers({ record, target: null }, 3, 'diffuse.indirect')).to.include({ from: 2, to: 6 });
    expect(inNumbers({ record, target: null }, 3, 'glossy')).to.equal(null);
    expect(inNumbers({ record, target: null }, 3, 'sss')).to.equal(null);
  });
  it('speaks in the dials of a target: roots of samples, dials for several kinds, and their ends', () => {
    const there = { record: new Map([['pixel root', 8], ['bounce root', 2]]), target: millraceTarget }; // prettier-ignore
    // 64 samples × 4 are 256, whose root is 16.
    expect(inNumbers(there, 4, null)).to.deep.equal({ name: 'pixel root', from: 8, to: 16, note: '' });
    expect(inNumbers(there, 9, 'diffuse')).to.deep.equal({ name: 'bounce root', from: 2, to: 6, note: 'it stands for 2 kinds at once; times pixel root, as they are' }); // prettier-ignore
    expect(inNumbers(there, 100, null)).to.include({ to: 64, note: 'the dial goes to 64' });
    expect(inNumbers(there, 4, 'specular.direct')).to.equal(null);
    // Samples that are known by another name are the dial's: the root of 64 is 8.
    const known = { record: new Map([['spp', 64]]), target: millraceTarget };
    expect(inNumbers(known, 4, null)).to.deep.equal({ name: 'pixel root', from: 8, to: 16, note: '' });
    expect(inNumbers(known, 4, 'diffuse')).to.equal(null);
  });
});
