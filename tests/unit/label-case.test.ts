/** The label case, small: what is planted in it stands first, is cured as predicted, and is not told of the cured shot. */
import { expect } from 'chai';
import type { FindingWithMask } from '../../core/contracts/finding.ts';
import { diagnoseRender, lookInRender } from '../../core/diagnose/run.ts';
import { textures } from '../../core/diagnose/textures/definition.ts';
import { glass } from '../../core/diagnose/glass/definition.ts';
import { limits } from '../../core/diagnose/limits/definition.ts';
import { occlusion } from '../../core/diagnose/occlusion/definition.ts';
import { withValues, type ControlValues } from '../../core/document/set-values.ts';
import { changeOf, sidesOf } from '../../core/figures/effect.ts';
import { buildLabelCase } from '../../demo/ha-060/build.ts';
import { benchShot, inputOf, renderShot, tryRemedy, valuesOf, type BenchShot } from './bench-shot.ts';

const PLANTED = ['glass.tint-upside-down', 'glass.environment-line', 'occlusion.ignores-transparency'];
const FAMILIES = [glass, limits, occlusion];

describe('label case', function () {
  this.timeout(300_000);
  let shot: BenchShot;
  let found: FindingWithMask[];
  const of = (cause: string) => found.find(({ finding }) => finding.cause === cause)!;

  before(async () => {
    shot = await benchShot(buildLabelCase, { width: 240, height: 135, samples: 32 });
    found = diagnoseRender(inputOf(shot, renderShot(shot)));
  });

  it('has a tint that is upside down, a line of the environment, and occlusion of the front, before everything else', () => {
    expect(found.slice(0, 3).map(({ finding }) => finding.cause)).to.have.members(PLANTED);
    expect(of('glass.tint-upside-down').finding.sentence).to.match(/tinted pane is upside down: its dark end hides label of 19/);
    expect(of('glass.environment-line').finding.sentence).to.match(/^A hard line of the environment is seen in front glass: 1\.\d stops/);
    expect(of('glass.environment-line').finding.headline).to.match(/at its horizon/);
  }); // prettier-ignore

  // As near as a lighter needs them: brightness within 0.2 stops, rays within 20 %, share open within 0.05.
  for (const cause of PLANTED)
    it(`${cause}: a trial of the first remedy measures what was predicted`, () => {
      const [remedy] = of(cause).finding.remedies;
      const measured = tryRemedy(shot, of(cause), remedy);
      const off = (id: string) => changeOf(measured, id)! - changeOf(remedy.predicted!, id)!;
      if (cause !== 'occlusion.ignores-transparency') expect(off('brightness'), 'stops').to.be.within(-0.2, 0.2);
      expect(changeOf(measured, 'rays')! / changeOf(remedy.predicted!, 'rays')!, 'rays').to.be.within(0.8, 1.25);
      const [is, told] = [measured, remedy.predicted!].map((effect) => sidesOf(effect, 'openness').after);
      expect(Math.abs(is! - told!), 'open').to.be.below(0.05);
    });

  it('tells nothing of glass, limits and occlusion once it is cured', () => {
    const values = Object.assign({}, ...PLANTED.map((cause) => valuesOf(of(cause).finding.remedies[0]))) as ControlValues;
    // Light is traced here: occlusion is kept as a pass.
    const document = withValues(shot.document, ['preview'], { ...values, '/occlusion/strength': 0 });
    const cured = { ...shot, document };
    const left = diagnoseRender(inputOf(cured, renderShot(cured)), FAMILIES).filter(({ finding }) => finding.severity !== 'note');
    expect(left.map(({ finding }) => finding.sentence)).to.deep.equal([]);
  }); // prettier-ignore

  it('has four prints that are wrong, each told by its name, and one remedy for both round labels', async () => {
    const prints = await benchShot(buildLabelCase, { width: 480, height: 270, samples: 4, passes: { occlusion: false, shadows: false, lines: false, groups: false } });
    const look = (of: BenchShot) => lookInRender(inputOf(of, renderShot(of)), textures);
    const told = look(prints);
    const by = (cause: string) => told.find(({ finding }) => finding.cause === cause)!.finding;
    expect(told.map(({ finding }) => finding.cause)).to.have.members(['textures.alpha-lost', 'textures.alpha-fringe', 'textures.glow-left-on', 'textures.filtered-when-meant-sharp']);
    expect(by('textures.alpha-lost').where.objects).to.deep.equal(['round label of acacia', 'round label of lime']);
    expect(by('textures.alpha-lost').headline).to.equal('round_alpha is the same image with alpha');
    expect(by('textures.alpha-fringe').sentence).to.match(/^Edges of leaf have a fringe/);
    expect(by('textures.glow-left-on').sentence).to.match(/^Tag glows/);
    expect(by('textures.filtered-when-meant-sharp').sentence).to.match(/bee is blurred/i);
    // What is set clears what it is for; the leaf needs a new file.
    const values = Object.assign({}, ...told.map(({ finding }) => (finding.remedies[0].change?.kind === 'values' ? finding.remedies[0].change.values : {}))) as ControlValues;
    const left = look({ ...prints, document: withValues(prints.document, ['preview'], values) });
    expect(left.map(({ finding }) => finding.cause)).to.deep.equal(['textures.alpha-fringe']);
  }); // prettier-ignore
});
