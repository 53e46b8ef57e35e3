/** Materials put in the place of others, mapping carried between objects that are alike, and objects of another document. */
import { expect } from 'chai';
import { addedObjects } from '../../core/document/add-objects.ts';
import { alikeObjects, carriedMapping } from '../../core/document/carry-mapping.ts';
import { defaultMap, defaultMaterial } from '../../core/document/defaults.ts';
import { reassigned, wearersOf } from '../../core/document/reassign.ts';
import { valuesPatch, withValues } from '../../core/document/set-values.ts';
import { tellChange } from '../../core/document/tell-change.ts';
import { validateDocument } from '../../core/document/validate.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { box } from '../../demo/shapes.ts';
import { scene } from './helpers.ts';

const cube = () => box([-1, -1, -1], [1, 1, 1]);

/** Three crates with a material and a map each, and a lid with the first one's. */
function crates(): ShotDocument {
  const { document } = scene([1, 2, 3].map(() => ({ mesh: cube() })));
  const [objects, materials] = [Object.entries(document.objects), {} as ShotDocument['materials']];
  document.objects = Object.fromEntries(objects.map(([, object], i) => [`crate-${i + 1}`, { ...object, name: `crate ${i + 1}`, material: `wood-${i + 1}` }])); // prettier-ignore
  document.objects.lid = { ...objects[0][1], name: 'lid', mesh: null, shape: 'floor', material: 'wood-1' };
  for (const i of [1, 2, 3]) {
    materials[`wood-${i}`] = { ...defaultMaterial(), name: `wood ${i}`, baseColourMap: `planks-${i}` };
    document.maps[`planks-${i}`] = defaultMap('checker');
  }
  document.materials = materials;
  return document;
}

describe('materials reassigned', () => {
  it('are one change for all objects that have them, told in words, and valid', () => {
    const document = crates();
    expect(wearersOf(document, ['wood-1'])).to.deep.equal(['crate-1', 'lid']);
    const values = reassigned(document, ['wood-1', 'wood-2'], 'wood-3');
    expect(values).to.deep.equal({ '/objects/crate-1/material': 'wood-3', '/objects/crate-2/material': 'wood-3', '/objects/lid/material': 'wood-3' }); // prettier-ignore
    const changed = withValues(document, ['preview'], values);
    expect(tellChange(document, changed, valuesPatch(document, ['preview'], values)).join('\n')).to.match(/crate 1.*material/i); // prettier-ignore
    expect(() => validateDocument(changed)).to.not.throw();
  });

  it('become plain grey, which is added once and then found again unless it was changed', () => {
    const document = crates();
    const once = withValues(document, ['preview'], reassigned(document, ['wood-1'], null));
    const added = Object.keys(once.materials).filter((id) => !(id in document.materials));
    expect(added).to.have.length(1);
    expect(once.materials[added[0]]).to.deep.equal({ ...defaultMaterial(), name: 'plain grey' });
    expect(once.objects.lid.material).to.equal(added[0]);
    const twice = withValues(once, ['preview'], reassigned(once, ['wood-2'], null));
    expect(Object.keys(twice.materials)).to.deep.equal(Object.keys(once.materials));
    once.materials[added[0]].roughness = 0.1;
    expect(Object.keys(reassigned(once, ['wood-2'], null))[0]).to.match(/^\/materials\/plain-grey-2$/);
  });

  it('say what is wrong: no object has it, or there is no such material', () => {
    const document = crates();
    expect(() => reassigned(document, ['nothing'], null)).to.throw(RangeError, 'no object has the material');
    expect(() => reassigned(document, ['wood-1'], 'wood-1'), 'by itself').to.throw(RangeError, 'no object');
    expect(() => reassigned(document, ['wood-1'], 'gold')).to.throw(RangeError, 'no material "gold"');
  });
});

describe('mapping carried to objects that are alike', () => {
  it('goes to numbered names and copies of a mesh, slot by slot, and to nothing that lies so already', () => {
    const document = crates();
    expect(alikeObjects(document, 'crate-1')).to.deep.equal(['crate-2', 'crate-3']);
    document.objects['crate-3'].name = 'trunk';
    document.objects['crate-3'].mesh = document.objects['crate-1'].mesh;
    expect(alikeObjects(document, 'crate-1'), 'by its mesh').to.deep.equal(['crate-2', 'crate-3']);
    expect(alikeObjects(document, 'lid')).to.deep.equal([]);
    expect(carriedMapping(document, 'crate-1', ['crate-2', 'crate-3'])).to.deep.equal({});
    Object.assign(document.maps['planks-1'], { rotation: 90, scale: [2, 1] });
    document.materials['wood-3'].baseColourMap = null;
    document.materials['wood-3'].roughnessMap = 'planks-3';
    expect(carriedMapping(document, 'crate-1', ['crate-2', 'crate-3'])).to.deep.equal({ '/maps/planks-2/rotation': 90, '/maps/planks-2/scale': [2, 1] }); // prettier-ignore
  });

  it('leaves a map alone that both have', () => {
    const document = crates();
    document.materials['wood-2'].baseColourMap = 'planks-1';
    Object.assign(document.maps['planks-1'], { rotation: 90 });
    expect(carriedMapping(document, 'crate-1', ['crate-2'])).to.deep.equal({});
  });
});

describe('objects added from another document', () => {
  it('keep what they refer to, under ids that are free', () => {
    const [document, from] = [crates(), crates()];
    from.maps['planks-2'] = { ...defaultMap('image'), texture: 'oak' };
    from.textures.oak = { file: 'textures/oak.png', colourSpace: 'srgb' };
    from.maps['planks-3'] = { kind: 'shared', file: 'shared/wood.json', item: 'oak', override: {} };
    from.objects['crate-1'].keys = [{ frame: 2, transform: from.objects['crate-1'].transform, mesh: from.objects['crate-2'].mesh }];
    const { values, objects } = addedObjects(document, from, (path) => `other/${path}`);
    const whole = withValues(document, ['preview'], values);
    expect(() => validateDocument(whole)).to.not.throw();
    expect(objects).to.have.length(4);
    for (const id of Object.keys(document.objects)) expect(objects).to.not.include(id);
    const [first, second, third] = objects.map((id) => whole.objects[id]);
    expect(first.keys[0].mesh).to.equal(second.mesh);
    expect(Object.keys(document.meshes)).to.not.include(second.mesh);
    const map = whole.maps[whole.materials[second.material].baseColourMap!];
    expect(map.kind === 'image' && whole.textures[map.texture].file).to.equal('other/textures/oak.png');
    expect(whole.maps[whole.materials[third.material].baseColourMap!]).to.include({ file: 'other/shared/wood.json' });
    expect(whole.materials[third.material].name).to.equal('wood 3');
    expect(whole.lights).to.deep.equal(document.lights);
  });
}); // prettier-ignore
