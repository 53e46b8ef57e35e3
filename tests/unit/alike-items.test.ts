/** A change of several items at once, made for all of them or for a chosen few. */
import { expect } from 'chai';
import { alikeItems, forItems } from '../../core/document/alike-items.ts';

const values = {
  '/clamps/bounced': 0.1,
  '/objects/jar-1/seeThroughShadows': true,
  '/objects/jar-2/seeThroughShadows': true,
  '/objects/jar-2.b/seeThroughShadows': true,
  '/objects/shelf/seeThroughShadows': false,
  '/materials/glass/roughness': 0.2,
  '/lights/fill': { kind: 'point' },
};

describe('items that a change treats alike', () => {
  it('are those of one kind with the same values', () => {
    expect(alikeItems(values)).to.deep.equal(['/objects/jar-1', '/objects/jar-2', '/objects/jar-2.b']);
  });
  it('are none where each gets something else, or where there is one', () => {
    expect(alikeItems({ '/objects/a/thin': true, '/objects/b/thin': false })).to.deep.equal([]);
    expect(alikeItems({ '/objects/a/thin': true, '/materials/a/thin': true })).to.deep.equal([]);
    expect(alikeItems({ '/samples': 4, '/limits/overall': 4 })).to.deep.equal([]);
    expect(alikeItems({ '/objects/a/thin': true, '/objects/b/thin': true, '/objects/b/hidden': true })).to.deep.equal(
      [],
    );
  });
  it('can be left out, and what is about other things stays', () => {
    expect(Object.keys(forItems(values, ['/objects/jar-2']))).to.deep.equal([
      '/clamps/bounced',
      '/objects/jar-2/seeThroughShadows',
      '/objects/shelf/seeThroughShadows',
      '/materials/glass/roughness',
      '/lights/fill',
    ]);
  });
});
