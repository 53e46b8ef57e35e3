/** How a picture is looked at, in the address: everything goes in and comes out again, and what makes no sense is left out. */
import { expect } from 'chai';
import { createPinia, setActivePinia } from 'pinia';
import type { RenderSummary } from '../../core/contracts/events.ts';
import { useLook } from '../../web/stores/look.ts';
import { useShot, type OpenShot } from '../../web/stores/shot.ts';

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

describe('what is looked at while nothing is chosen', () => {
  beforeEach(() => setActivePinia(createPinia()));
  const whole = { x: 0, y: 0, width: 64, height: 36 };
  const render = (id: number, more: Partial<RenderSummary>) =>
    ({ id, purpose: 'base', version: 1, sheet: 'preview', width: 64, height: 36, region: whole, samplesDone: 4, frame: null, range: null, state: 'done', progress: 1, revision: 1, ...more }) as RenderSummary; // prettier-ignore

  it('is the newest whole render that has samples: neither one that has only begun nor a frame of a range', () => {
    useShot().state = {
      document: null,
      trials: [],
      renders: [
        render(1, {}),
        render(2, { region: { ...whole, width: 8 } }),
        render(3, { purpose: 'frame', range: 1, frame: 1001 }),
        render(4, { purpose: 'frame', range: 1, frame: 1002 }),
        render(5, { samplesDone: 0, state: 'active' }),
      ],
    } as unknown as OpenShot;
    const look = useLook();
    expect([look.shown?.key, look.sequence]).to.deep.equal(['r1', null]);
    look.show('r3');
    expect(look.sequence?.frames.map(({ frame }) => frame)).to.deep.equal([1001, 1002]);
  });
});
