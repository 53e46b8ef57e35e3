/** The shadow survey: the yard's faults are told in an order that makes sense, each trial shows what was forecast, and cured shots are clear. */
import { expect } from 'chai';
import { lookInRender } from '../../core/diagnose/run.ts';
import { shadows } from '../../core/diagnose/shadows/definition.ts';
import { withValues } from '../../core/document/set-values.ts';
import { changeOf } from '../../core/figures/effect.ts';
import { buildHiveYard } from '../../demo/ha-050/build.ts';
import { buildNightLantern } from '../../demo/ha-020/build.ts';
import { buildStoreRoom } from '../../demo/ha-040/build.ts';
import { benchShot, inputOf, renderShot, tryRemedy, type BenchShot } from './bench-shot.ts';

const look = (shot: BenchShot) => lookInRender(inputOf(shot, renderShot(shot)), shadows);

describe('the shadow survey', function () {
  this.timeout(120_000);

  it('finds in the hive yard that the sun’s shadows end too soon, and that the sky drowns them', async () => {
    const shot = await benchShot(buildHiveYard(), { width: 240, height: 135 });
    const found = look(shot);
    expect(found.map(({ finding }) => finding.cause)).to.deep.equal(['shadows.distance-too-short', 'shadows.drowned-by-fill']); // prettier-ignore
    const [short, drowned] = found;
    expect(short.finding.sentence).to.match(
      /shadows of sun end 6 m from the lit point, and what should throw them stand/,
    );
    expect(short.finding.remedies[0].change).to.deep.equal({ kind: 'values', values: { '/lights/sun/shadowDistance': null } }); // prettier-ignore
    expect(drowned.finding.headline).to.match(
      /^The environment brings [5-9]\.\d times the light of sun into its shadows$/,
    );
    for (const one of found) {
      const [remedy] = one.finding.remedies;
      const measured = changeOf(tryRemedy(shot, one, remedy), 'brightness')!;
      expect(changeOf(remedy.predicted!, 'brightness'), remedy.title).to.be.closeTo(measured, 0.2);
      const contrast = changeOf(tryRemedy(shot, one, remedy), 'contrast')!;
      expect(Math.abs(measured) + Math.abs(contrast), `${remedy.title} is seen`).to.be.above(0.03);
    }
    // Both put right: nothing is left.
    const values = Object.assign({}, ...found.map(({ finding }) => (finding.remedies[0].change as { values: object }).values)) as Record<string, unknown>; // prettier-ignore
    expect(look({ ...shot, document: withValues(shot.document, ['preview'], values) })).to.deep.equal([]);
  });

  it('finds nothing in a room whose shadows are all there', async () => {
    expect(look(await benchShot(buildStoreRoom(), { width: 160, height: 90, samples: 16 }))).to.deep.equal([]);
  });

  it('leaves glass alone that a light is not linked to, or that throws no shadow on purpose', async () => {
    const shot = await benchShot(buildNightLantern(), { width: 160, height: 90, samples: 16 });
    const glass = Object.entries(shot.document.objects).filter(([, { material }]) => shot.document.materials[material].transmission > 0).map(([id]) => id); // prettier-ignore
    expect(glass).not.to.have.length(0);
    const hidden = Object.fromEntries(glass.map((id) => [`/objects/${id}/visibility/shadow`, false]));
    expect(look({ ...shot, document: withValues(shot.document, ['preview'], hidden) })).to.deep.equal([]);
  });
});
