/** Where nothing is lit before a change, its figures are still figures: stated, stored and compared. */
import { expect } from 'chai';
import { canonicalText } from '../../core/document/canonical.ts';
import { carriedNoise } from '../../core/figures/noise-figure.ts';
import { stopsBetween } from '../../core/figures/stops-between.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { smallShot } from '../api/small-shot.ts';
import { examine, tryOut, valuesOf } from './bench-shot.ts';
import { read } from './effects.ts';

describe('changes that bring light into the dark', () => {
  it('states remedies of panes that let nothing through before', async () => {
    const { document, files } = await smallShot('DARK', { samples: 16, width: 48, height: 32 });
    // The lamp stands before the panes and the wall behind them: two faces are crossed and four needed.
    document.environment.intensity = 0;
    const assets = await loadAssets(document, async (path) => files.get(path) ?? null, 'x');
    const found = examine({ document, assets }).map(({ finding }) => finding);
    expect(() => canonicalText(found)).not.to.throw();
    const [enough] = found.find(({ key }) => key === 'limits.transmission')!.remedies;
    expect(read(enough.predicted).stops).to.equal(20);
    const measured = tryOut({ document, assets }, valuesOf(enough), { x: 18, y: 11, width: 12, height: 10 });
    expect(() => canonicalText(measured)).not.to.throw();
    expect(read(measured).noiseAfter).to.be.above(0);
  });

  it('tells stops of what was dark, went dark, or both', () => {
    expect(stopsBetween(1, 4)).to.equal(2);
    expect(stopsBetween(0, 1)).to.equal(20);
    expect(stopsBetween(1, 0)).to.equal(-20);
    expect(stopsBetween(0, 0)).to.equal(0);
    expect(carriedNoise(6, 2, 1)).to.equal(3);
    expect(carriedNoise(0, 0, 5)).to.equal(5);
  });
});
