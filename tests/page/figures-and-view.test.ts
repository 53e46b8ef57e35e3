/** What the page does without a browser: figures as text, keys, and the view in the address. */
import { expect } from 'chai';
import { createPinia, setActivePinia } from 'pinia';
import { durations, count, duration, number, passName, percent, radiance, stops, times } from '../../web/format.ts';
import { figureOf } from '../../core/figures/registry.ts';
import { textOf } from '../../web/figure-rows.ts';
import { useView } from '../../web/stores/view.ts';

describe('figures as text', () => {
  it('have their unit, sensible digits and a sign where it matters', () => {
    expect(stops(1.06)).to.equal('+1.1');
    expect(stops(-0.52)).to.equal('−0.5');
    expect(stops(-0.04)).to.equal('0.0');
    expect(durations([4800, 5760])).to.deep.equal(['1.33 h', '1.60 h']);
    expect(durations([0.02, 8])).to.deep.equal(['0.02 s', '8.00 s']);
    expect(times(1.308)).to.equal('× 1.31');
    expect(times(17.75)).to.equal('× 18');
    expect(percent(0.384)).to.equal('38 %');
    expect(percent(0.0004)).to.equal('< 1 %');
    expect(percent(0)).to.equal('0 %');
    expect(number(1234.5, 1)).to.equal('1,234.5');
    expect(count(20_449_443)).to.equal('20.4 M');
    expect(count(950)).to.equal('950');
  });

  it('tell durations in the unit a person would', () => {
    expect(duration(0.2)).to.equal('1 s');
    expect(duration(42)).to.equal('42 s');
    expect(duration(600)).to.equal('10 min');
    expect(duration(9000)).to.equal('2.5 h');
  });

  it('give radiance three significant digits', () => {
    expect(radiance(0.00314159)).to.equal('0.00314');
    expect(radiance(12.3456)).to.equal('12.3');
    expect(radiance(0)).to.equal('0');
    expect(radiance(2.5e-7)).to.equal('2.5e-7');
  });

  it('tell a brightness that comes from black, or goes there, as that and not as stops', () => {
    const tell = textOf(figureOf('brightness'));
    expect([tell(0.4), tell(20), tell(-20)]).to.deep.equal(['+0.4', 'black →', '→ black']);
  });

  it('name passes', () => {
    expect(passName('beauty')).to.equal('Beauty');
    expect(passName('diffuse.direct')).to.equal('Diffuse direct');
    expect(passName('cut.transmission')).to.equal('Cut: transmission');
    expect(passName('error.diffuse.direct')).to.equal('Error: diffuse direct');
  });
});

describe('the view in the address', () => {
  beforeEach(() => setActivePinia(createPinia()));

  it('comes back as it was: picture, pass, exposure, finding, region', () => {
    const view = useView();
    view.renderId = 3;
    view.findingId = 7;
    view.pass = 'cut.any';
    view.exposure = -1.5;
    view.gamma = 1.25;
    view.region = { x: 10, y: 20, width: 30, height: 40 };
    const query = { ...view.query };
    setActivePinia(createPinia());
    const other = useView();
    other.fromQuery(query);
    expect(other.query).to.deep.equal(query);
    expect(other.region).to.deep.equal({ x: 10, y: 20, width: 30, height: 40 });
  });

  it('is empty for the plain view, and takes no nonsense', () => {
    const view = useView();
    expect(view.query).to.deep.equal({});
    view.fromQuery({ exposure: 'bright', gamma: '900', region: '1,2,x,4', render: 'one', panel: 'other' });
    expect(view.exposure).to.equal(0);
    expect(view.gamma).to.equal(5);
    expect(view.region).to.equal(null);
    expect(view.renderId).to.equal(null);
    expect(view.panel).to.equal('findings');
  });

  it('lifts the shadows by two stops and gamma 1.25, and back (common practice, no source)', () => {
    const view = useView();
    view.toggleBoost();
    expect([view.exposure, view.gamma, view.isBoosted]).to.deep.equal([2, 1.25, true]);
    view.toggleBoost();
    expect([view.exposure, view.gamma, view.isBoosted]).to.deep.equal([0, 1, false]);
  });
});
