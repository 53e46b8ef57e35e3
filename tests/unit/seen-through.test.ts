/** What is planted in glass and occlusion is found, and not found any more once the first remedy is carried out. */
import { expect } from 'chai';
import { glass } from '../../core/diagnose/glass/definition.ts';
import { occlusion } from '../../core/diagnose/occlusion/definition.ts';
import { diagnoseRender } from '../../core/diagnose/run.ts';
import { withValues } from '../../core/document/set-values.ts';
import { FAULTS } from '../blind/faults/registry.ts';
import { drawCase } from '../blind/judge.ts';
import { inputOf, renderShot, valuesOf, type BenchShot } from './bench-shot.ts';
import { atSize } from './size.ts';

const CAUSES = ['glass.tint-upside-down', 'glass.camera-inside', 'glass.tint-mapping-copied', 'glass.environment-line', 'glass.blocks-shadow-rays', 'occlusion.faceted']; // prettier-ignore
const causesOf = (shot: BenchShot) => diagnoseRender(inputOf(shot, renderShot(shot)), [glass, occlusion]).map(({ finding }) => finding); // prettier-ignore

describe('what is seen through glass, and occlusion', function () {
  this.timeout(120_000);

  for (const cause of CAUSES.slice(0, atSize(2, CAUSES.length)))
    it(`${cause} is told, and cured by its first remedy`, () => {
      const fault = FAULTS.find((one) => one.cause === cause)!;
      const { shot } = drawCase(3000 + FAULTS.indexOf(fault), fault)!;
      const [first] = causesOf(shot);
      expect(first.cause).to.equal(cause);
      const document = withValues(shot.document, ['preview'], valuesOf(first.remedies[0]));
      expect(causesOf({ ...shot, document }).map((one) => one.cause)).not.to.include(cause);
    });
});
