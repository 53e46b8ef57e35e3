/**
 * Blind cases: shots with one planted fault, drawn from seeds, and healthy ones; how often its cause is told first, and how
 * near the first remedy's predictions come to a trial of it. Truth is what was planted; of noise it is measured, see `judge.ts`.
 */
import process from 'node:process';
import { expect } from 'chai';
import { atSize } from '../unit/size.ts';
import { FAULTS } from './faults/registry.ts';
import { drawCase, isNear, judge, tryFirst, type Judged, type Met, type Tried } from './judge.ts';

/** These stand for all in `npm test`. */
const QUICK = ['limits.alpha', 'shadows.seen-through'];
const SEEDS = atSize(1, 3);
const HEALTHY = atSize(1, 50);

describe('blind cases', function () {
  this.timeout(atSize(300_000, 7_200_000));
  const judged: Judged[] = [];
  const tried: { cause: string; of: Tried }[] = [];

  const faults = FAULTS.filter(({ cause }) => atSize(0, 1) || QUICK.includes(cause));
  for (const fault of faults)
    it(`${fault.cause} is told first`, () => {
      let cases = 0;
      for (let s = 1; s <= SEEDS; s++) {
        const drawn = drawCase(1000 * s + FAULTS.indexOf(fault), fault);
        if (!drawn) continue;
        cases += 1;
        const verdict = judge(drawn);
        judged.push(verdict);
        const trial = tryFirst(verdict);
        if (trial) tried.push({ cause: fault.cause, of: trial });
        const first = verdict.found[0]?.finding.family;
        if (fault.isUpstream) expect(first, `${fault.cause} of seed ${drawn.seed}`).not.to.equal('noise');
        if (!atSize(0, 1)) expect(verdict.verdict, tell(verdict)).to.equal('first');
      }
      // A fault that no shot suffers from is no case.
      expect(cases, `${fault.cause}: shots that suffer from it`).to.be.at.least(SEEDS / 2);
    });

  it('nothing is told of healthy shots', () => {
    for (let s = 1; s <= HEALTHY; s++) judged.push(judge(drawCase(1000 * s + 900, null)!));
    expect(judged.filter(({ verdict }) => verdict === 'false').map(tell)).to.deep.equal([]);
  });

  it('the cause stands first in 98 % of them, and predictions land within 15 % in nine of ten trials', () => {
    const planted = judged.filter(({ of }) => of.fault !== null);
    const first = planted.filter(({ verdict }) => verdict === 'first').length;
    const near = tried.filter(({ of }) => isNear(of)).length;
    const table = [
      ...planted.map(tell),
      ...tried.map(({ cause, of }) => `${cause.padEnd(30)} ${of.remedy.padEnd(34)} ${isNear(of) ? ' ' : '×'} noise ${show(of.noise)}, rays ${show(of.rays)}, brightness ${show(of.brightness)}`),
      `${first} of ${planted.length} first; ${near} of ${tried.length} trials within 15 %`,
    ].join('\n'); // prettier-ignore
    if (process.env.DUSTING_TELL || atSize(0, 1)) process.stdout.write(`${table}\n`);
    expect(first, table).to.be.at.least(0.98 * planted.length);
    // A handful tells no share.
    if (atSize(0, 1)) expect(near, table).to.be.at.least(0.9 * tried.length);
  });
});

const show = (of: Met): string => (of ? `${of.told.toFixed(2)} → ${of.is.toFixed(2)}` : '–');

const tell = ({ of, verdict, found }: Judged): string =>
  `${(of.fault?.cause ?? 'healthy').padEnd(30)} ${String(of.seed).padStart(6)} ${verdict.padEnd(8)} ${found.map(({ finding }) => finding.cause).join(', ')}`;
