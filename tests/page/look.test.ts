/** How a picture is looked at, in the address: everything goes in and comes out again, and what makes no sense is left out. */
import { expect } from 'chai';
import { createPinia, setActivePinia } from 'pinia';
import { useLook } from '../../web/stores/look.ts';

describe('a look in the address', () => {
  beforeEach(() => setActivePinia(createPinia()));

  const all = {
    a: 'p12',
    b: 'r5,p13',
    mode: 'wipe',
    layer: 'diffuse.direct',
    exposure: '2.5',
    gamma: '1.25',
    offset: '-0.01',
    transform: 'filmic',
    space: 'acescg',
    solo: 'luminance',
    stops: '1',
    marks: '1',
    behind: 'checker',
    wipe: '0.250,70',
    region: '10,20,30,40',
    panel: 'compare',
    guides: 'thirds',
    place: '2.5,96,54.5',
  };

  it('is whole: what goes in comes out', () => {
    const look = useLook();
    look.fromQuery(all);
    expect(look.query).to.deep.equal(all);
    look.fromQuery({ mode: 'difference', difference: 'stops,8' });
    expect(look.query).to.deep.equal({ mode: 'difference', difference: 'stops,8' });
  });

  it('is plain where nothing is said', () => {
    const look = useLook();
    look.fromQuery(all);
    look.fromQuery({});
    expect(look.query).to.deep.equal({});
  });

  it('leaves out what makes no sense, and keeps the rest', () => {
    const look = useLook();
    look.fromQuery({ exposure: 'bright', gamma: '1e9', mode: 'sideways', solo: 'infra', region: '1,2,0,4', place: '0,1,2', difference: 'x,-3', wipe: 'a,b', panel: 'constructor', transform: '__proto__', layer: 'N' }); // prettier-ignore
    expect(look.query).to.deep.equal({ gamma: '5', layer: 'N' });
    expect([look.wipe.at, look.wipe.angle, look.difference.kind, look.difference.times]).to.deep.equal([0.5, 90, 'absolute', 1]); // prettier-ignore
  });

  it('is lifted and put back by the same switch', () => {
    const look = useLook();
    look.fromQuery({});
    look.toggleBoost();
    expect([look.view.exposure, look.view.gamma, look.isBoosted]).to.deep.equal([2, 1.25, true]);
    look.toggleBoost();
    expect(look.query).to.deep.equal({});
  });
});
