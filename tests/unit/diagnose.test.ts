/** The first two diagnoses on the jar shelf: the cause agrees with counting by hand, and trials keep what was predicted. */
import { expect } from 'chai';
import type { FindingWithMask } from '../../core/contracts/finding.ts';
import { noise } from '../../core/diagnose/noise/definition.ts';
import { changeOf, sidesOf } from '../../core/figures/effect.ts';
import { dialAt } from '../../core/document/dials.ts';
import { examine, tryOut, tryRemedy, valuesOf, type BenchShot } from './bench-shot.ts';
import { jarShelf } from './jar-shelf.ts';
import { atSize } from './size.ts';

describe('jar shelf', function () {
  this.timeout(atSize(240_000, 3600_000));
  let shelf: BenchShot;
  let found: FindingWithMask[];
  const find = (key: string) => found.find((f) => f.finding.key === key)!;

  before(async () => {
    shelf = await jarShelf(atSize(240, 480), atSize(135, 270));
    found = examine(shelf);
  });

  it('has black glass, black reflections and noise, the most urgent first', () => {
    expect(found.map((f) => f.finding.key)).to.deep.equal(['limits.transmission', 'limits.specular', 'noise']);
  });

  it('names the transmission limit and the overall limit behind it', () => {
    const { finding } = find('limits.transmission');
    expect(finding.severity).to.equal('stop');
    expect(finding.sentence).to.match(/transmission limit \(6\) and the overall \(9\)/);
    expect(finding.dials.map((d) => d.pointer)).to.deep.equal(['/limits/transmission', '/limits/overall']);
    expect(finding.dials[1].note).to.equal('decides at 9');
    expect(finding.why).to.match(/raising the first alone lets \d+ % through/);
  });

  it('counts faces as one does by hand: 5 jars × 2 walls × 2 faces = 20 (common practice, no source)', () => {
    const { finding } = find('limits.transmission');
    expect(finding.headline).to.match(/A straight path crosses 20 faces; paths end at 6/);
    expect(finding.why).to.match(/5 bodies of tinted glass × 2 walls × 2 faces = 20/);
  });

  it('asks for at least the crossings, and for an overall limit one event above', () => {
    const values = valuesOf(find('limits.transmission').finding.remedies[0]);
    expect(values['/limits/transmission']).to.be.within(20, 32);
    expect(values['/limits/overall']).to.be.at.least((values['/limits/transmission'] as number) + 1);
  });

  it('shows what the light needs of the limit, and how many faces paths cross', () => {
    const { evidence } = find('limits.transmission').finding;
    const needs = evidence.find((one) => one.kind === 'table')!;
    const limits = needs.rows.slice(0, 3).map((row) => row[1] as number);
    expect(limits).to.deep.equal([...limits].sort((a, b) => a - b));
    expect(limits[1]).to.be.within(16, 32);
    expect(needs.rows[1][3]).to.match(/^\+\d/);
    const faces = evidence.find((one) => one.kind === 'histogram')!;
    expect(faces.bins.at(-1)).to.include({ from: 20, to: 20 });
    // A jar that is empty is two walls of two faces, and what is looked at through it lies behind them all.
    const even = faces.bins.filter(({ from }) => from % 2 === 0).reduce((sum, { count }) => sum + count, 0);
    const all = faces.bins.reduce((sum, { count }) => sum + count, 0);
    expect(even / all).to.be.above(0.9);
  });

  it('masks the jars and not the empty wall', () => {
    const mask = find('limits.transmission').mask!;
    const { width, height } = shelf.document.sheets.preview;
    expect(mask.length).to.equal(width * height);
    const at = (u: number, v: number) => mask[Math.floor(v * height) * width + Math.floor(u * width)];
    expect(at(0.59, 0.5), 'inside an empty jar').to.equal(1);
    expect(at(0.1, 0.1), 'on the wall').to.equal(0);
  });

  it('lets every dial it speaks of be found', () => {
    for (const { finding } of found) for (const { pointer } of finding.dials) dialAt(pointer);
  });

  for (const key of ['limits.transmission', 'limits.specular'])
    it(`${key}: every remedy’s trial lands within 0.2 stops and 25 % of the cost`, () => {
      const item = find(key);
      for (const remedy of item.finding.remedies) {
        const [measured, predicted] = [tryRemedy(shelf, item, remedy), remedy.predicted!];
        expect(changeOf(measured, 'brightness'), remedy.title).to.be.closeTo(changeOf(predicted, 'brightness')!, 0.2);
        expect(changeOf(measured, 'rays')! / changeOf(predicted, 'rays')!, remedy.title).to.be.within(0.75, 1.25);
        expect(changeOf(measured, 'brightness')).to.be.above(0.1);
      }
    });

  it('noise: the trial that halves the noise lands within 20 % of its prediction, in noise and in cost', () => {
    const item = find('noise');
    const half = item.finding.remedies.find((r) => r.id.startsWith('half'))!;
    const [measured, predicted] = [tryRemedy(shelf, item, half), half.predicted!];
    expect(sidesOf(measured, 'noise').after! / sidesOf(predicted, 'noise').after!, 'noise').to.be.within(0.8, 1.2);
    expect(changeOf(measured, 'rays')! / changeOf(predicted, 'rays')!, 'rays').to.be.within(0.8, 1.2);
    expect(Math.abs(changeOf(measured, 'brightness')!)).to.be.below(0.2);
  });

  it('noise: says which pass carries it, and asks for less the higher the target', async () => {
    const { finding } = find('noise');
    expect(finding.headline).to.match(/^\d+ % of the noise here is (direct|indirect) \w+: [a-z ]+$/);
    const cost = changeOf(finding.remedies[0].predicted!, 'rays')!;
    const relaxed = await jarShelf(shelf.document.sheets.preview.width, shelf.document.sheets.preview.height, {
      grainTarget: 10,
    });
    const other = examine(relaxed, [noise]).find((f) => f.finding.key === 'noise')!;
    expect(changeOf(other.finding.remedies[0].predicted!, 'rays')).to.be.below(cost / 2);
  });

  it('noise: more samples of the kind that has most of it, and nothing else, do what the table says', () => {
    const { finding } = find('noise');
    const table = finding.evidence.find((one) => one.kind === 'table')!;
    if (table.kind !== 'table') throw new Error('no table');
    const kind = table.title.split(' ')[1];
    const [now, , most] = table.rows as [number, string, string][];
    const { region } = finding.where;
    const measured = tryOut(shelf, { [`/extraSamples/${kind}`]: most[0] }, region!);
    const told = Number(most[1]) / Number(now[1]);
    expect(changeOf(measured, 'noise')! / told).to.be.within(0.85, 1.15);
    expect(changeOf(measured, 'rays')! / Number(most[2].slice(2))).to.be.within(0.85, 1.15);
  });

  it('finds nothing where limits are generous and the target is met', async () => {
    const clean = await jarShelf(64, 36, {
      limits: { diffuse: 8, specular: 32, transmission: 64, volume: 2, alpha: 16, overall: 100 },
      grainTarget: 50,
    });
    // But that it has more samples than such a target needs.
    expect(examine(clean).map(({ finding }) => finding.key)).to.deep.equal(['noise.spare']);
  });
});
