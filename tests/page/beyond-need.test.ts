/** Limits beyond what the light was found to need are said before they are kept; what nothing is known of is not. */
import { expect } from 'chai';
import { beyondNeed } from '../../web/beyond-need.ts';

describe('limits beyond what the light needs', () => {
  const findings = [{ dials: [{ pointer: '/limits/transmission', needs: 24, note: null }, { pointer: '/limits/overall', needs: 26, note: null }] }, { dials: [{ pointer: '/limits/overall', needs: 12, note: null }] }]; // prettier-ignore

  it('are named, with the greatest need of all findings', () => {
    expect(beyondNeed({ '/limits/transmission': 60, '/limits/overall': 26, '/samples': 64 }, findings)).to.deep.equal([
      'Transmission limit 60 is beyond what the light needs here, 24.',
    ]);
  });

  it('are not, where no finding tells what is needed', () => {
    expect(beyondNeed({ '/limits/specular': 60 }, findings)).to.deep.equal([]);
    expect(beyondNeed({ '/limits/transmission': 60 }, [])).to.deep.equal([]);
  });
});
