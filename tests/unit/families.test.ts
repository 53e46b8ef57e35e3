/** The engine that all families share: a new one is a folder and a line, one that throws is told, what lies upstream goes first. */
import { expect } from 'chai';
import type { Finding, FindingWithMask } from '../../core/contracts/finding.ts';
import type { Family } from '../../core/diagnose/family.ts';
import { glass } from '../../core/diagnose/glass/definition.ts';
import { noise } from '../../core/diagnose/noise/definition.ts';
import { byUrgency } from '../../core/diagnose/order.ts';
import { checked, FAMILIES, neededPasses } from '../../core/diagnose/registry.ts';
import { arrangeFindings, diagnoseRender, lookInRender } from '../../core/diagnose/run.ts';
import { lineOf, upgradeFinding } from '../../core/diagnose/stored.ts';
import { together, versionFindings } from '../../core/diagnose/version-findings.ts';
import { CAUSE_OF_CHECK } from '../../core/diagnose/check-causes.ts';
import { CAUSE_IDS } from '../../core/diagnose/catalogue.ts';
import { FIGURES } from '../../core/figures/registry.ts';
import { CHECKS } from '../../core/intake/preflight/registry.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { smallShot } from '../api/small-shot.ts';
import { examine, inputOf, renderShot, tryRemedy, type BenchShot } from './bench-shot.ts';
import { read } from './effects.ts';
import { cost } from './example-family/definition.ts';

type Small = Awaited<ReturnType<typeof smallShot>>;
async function small(change: (shot: Small) => void = () => {}, sheet = {}): Promise<BenchShot> {
  const shot = await smallShot('FAMILY', { samples: 16, width: 64, height: 40, ...sheet });
  change(shot);
  return { document: shot.document, assets: await loadAssets(shot.document, async (path) => shot.files.get(path) ?? null, 'x') }; // prettier-ignore
}

describe('families of causes', function () {
  this.timeout(120_000);

  it('are a folder and a line: the example is asked, forecast, tried and put in order like any other', async () => {
    const shot = await small(() => {}, { motion: { samples: 4, shutter: 0.5 } });
    const found = examine(shot, checked([...FAMILIES, cost]));
    const own = found.find(({ finding }) => finding.family === 'cost')!;
    expect(own.finding.cause).to.equal('cost.motion-samples-unused');
    expect(own.finding.causes).to.deep.equal([{ id: 'cost.motion-samples-unused', share: 1 }]);
    const [remedy] = own.finding.remedies;
    // Every figure is forecast, or it says why it is not.
    expect(remedy.predicted!.figures.map(({ id }) => id)).to.deep.equal(FIGURES.map(({ id }) => id));
    for (const { id, after, why } of remedy.predicted!.figures)
      if (id !== 'most-changed') expect(after !== null || why !== undefined, id).to.equal(true);
    expect(read(tryRemedy(shot, own, remedy))).to.include({ stops: 0, rays: 1 });
    const severities = found.map(({ finding }) => ['stop', 'caution', 'note'].indexOf(finding.severity));
    expect(severities).to.deep.equal([...severities].sort((a, b) => a - b));
  });

  it('are refused with a sentence where an id stands twice, or a cause is in no catalogue', () => {
    expect(() => checked([cost, cost])).to.throw('there are two families "cost"');
    const odd = { ...cost, render: { ...cost.render!, causes: [{ id: 'cost.none' as never }] } };
    expect(() => checked([odd])).to.throw('family "cost" has the cause "cost.none", which is not in the catalogue');
  });

  it('go on when one throws, and say which and why', async () => {
    const shot = await small();
    const broken: Family = { ...cost, render: { ...cost.render!, cases: () => { throw new Error('the scene has no clock'); } } }; // prettier-ignore
    const found = examine(shot, [broken, ...FAMILIES]).map(({ finding }) => finding);
    const failed = found.find(({ cause }) => cause === 'cost.failed')!;
    expect([failed.sentence, failed.why]).to.deep.equal(['Cost: could not be examined.', 'the scene has no clock']);
    expect(found.some(({ family }) => family === 'limits')).to.equal(true);
  });

  it('know the shadow passes of lights, the same for all hosts', async () => {
    const shot = await small(({ document }) => (document.sheets.preview.passes.shadows = true));
    const { scene } = inputOf(shot, renderShot(shot));
    const [light] = scene.layout.shadows;
    expect(neededPasses(scene.layout)).to.include(`shadow.${light}`);
  });

  it('tell black glass before the noise in it, with what remains of the noise', async () => {
    const shot = await small(({ document }) => (document.materials.glass.baseColour = [0, 0, 0]), {
      grainTarget: 0.1,
      limits: { diffuse: 2, specular: 4, transmission: 16, volume: 2, alpha: 16, overall: 24 },
    });
    const found = diagnoseRender(inputOf(shot, renderShot(shot)), [noise, glass]).map(({ finding }) => finding);
    expect(found[0].cause).to.equal('glass.black-filter');
    expect(found[0].remedies[0].title).to.match(/filter nothing$/);
    expect(read(found[0].remedies[0].predicted).stops).to.be.above(3);
    const waits = found.find(({ key }) => key === 'noise')!;
    expect(waits.after).to.deep.equal(['glass.black-filter']);
    expect(waits.why).to.match(/Check it again after “the colour of .* is black.*”: with “.*”, noise \d/);
  });

  it('find apart, whatever looks first, what they find together', async () => {
    const shot = await small(({ document }) => (document.materials.glass.baseColour = [0, 0, 0]), { grainTarget: 0.1 });
    const input = inputOf(shot, renderShot(shot));
    const families = [noise, glass, FAMILIES.find(({ id }) => id === 'limits')!];
    const apart = new Map([...families].reverse().map((family) => [family.id, lookInRender(input, family)]));
    const arranged = arrangeFindings(input, families.flatMap(({ id }) => structuredClone(apart.get(id)!)), families); // prettier-ignore
    // What was measured with a clock is never the same twice.
    const plain = (found: FindingWithMask[]) => JSON.parse(JSON.stringify(found, (key, value: unknown) => (key === 'predicted' ? undefined : value))) as unknown; // prettier-ignore
    expect(plain(arranged)).to.deep.equal(plain(diagnoseRender(input, families)));
    expect(arranged.some(({ finding }) => finding.after?.includes('glass.black-filter'))).to.equal(true);
  });
});

describe('one list of findings', () => {
  const finding = (key: string, severity: Finding['severity'], more: Partial<Finding> = {}): Finding => ({
    ...{ of: 'render', family: 'noise', cause: `noise.${key}`, causes: [], sentence: '', headline: '', why: '' },
    ...{ where: { region: null, pixels: 0, objects: [], passes: [] }, dials: [], evidence: [], remedies: [] },
    key,
    severity,
    ...more,
  } as Finding); // prettier-ignore
  const keys = (list: { key: string }[]) => list.map(({ key }) => key);

  it('has the worst first, and what explains another before it', () => {
    const list = [finding('a', 'note'), finding('b', 'caution', { after: ['c'] }), finding('c', 'note'), finding('d', 'stop')]; // prettier-ignore
    expect(keys(byUrgency(list.map((one) => ({ finding: one }))).map((one) => one.finding))).to.deep.equal(['d', 'c', 'b', 'a']); // prettier-ignore
  });

  it('tells once what a render and preflight both see, with both ids, and what stops before what waits for it', () => {
    const check = (id: string, state: 'stop' | 'caution') => ({ id, state, group: 'light', title: id, why: 'w', expected: 'e', found: 'f', offenders: [{ object: 'jar', detail: 'd', count: 2 }], repair: null }); // prettier-ignore
    const version = versionFindings([check('limit-overridden', 'caution'), check('file-missing', 'stop'), { ...check('ngon', 'caution'), state: 'clear' }]); // prettier-ignore
    expect(version.map(({ cause }) => cause)).to.deep.equal(['limits.overall-hides-other', 'preflight.file-missing']);
    const hides = finding('limits.transmission', 'caution', { cause: 'limits.overall-hides-other' });
    const list = together([hides, finding('noise', 'stop')], version);
    expect(keys(list)).to.deep.equal(['preflight.file-missing', 'noise', 'limits.transmission']);
    expect(list[2].check).to.equal('limit-overridden');
    expect(list[1].after).to.deep.equal(['preflight.file-missing']);
  });

  it('names checks that there are, and causes of the catalogue', () => {
    const ids = new Set(CHECKS.map(({ id }) => id));
    for (const [check, cause] of Object.entries(CAUSE_OF_CHECK)) {
      expect(ids.has(check), check).to.equal(true);
      expect(CAUSE_IDS.has(cause!), cause).to.equal(true);
    }
  });

  it('reads what an earlier build stored', () => {
    const old = {
      family: 'grain', key: 'grain', severity: 'caution', sentence: 's', cause: 'c', why: 'w', region: { x: 0, y: 0, width: 4, height: 4 }, passes: ['beauty'], dials: [],
      chart: { title: 't', xLabel: 'x', yLabel: 'y', yMax: 1, points: [[0, 1]], marks: [] }, bars: [{ label: 'pass', parts: [] }],
      remedies: [{ id: 'half', title: 'Half', values: { '/samples': 64 }, predicted: { stops: 0.5, cost: 4, frameCost: 3, grainBefore: 8, grainAfter: 4, look: null } }],
    }; // prettier-ignore
    const now = upgradeFinding(old as never);
    expect(lineOf(now)).to.include({ family: 'noise', key: 'noise', severity: 'caution', firstRemedy: 'half' });
    expect(now.evidence.map(({ kind }) => kind)).to.deep.equal(['shares', 'curve']);
    expect(read(now.remedies[0].predicted)).to.include({
      stops: 0.5,
      rays: 4,
      frameRays: 3,
      noiseBefore: 8,
      noiseAfter: 4,
    });
    expect(upgradeFinding(now)).to.equal(now);
  });
});
