/** Findings from render to render: gone by a trial, gone by themselves, come back. */
import { expect } from 'chai';
import type { ShotState } from '../../core/contracts/events.ts';
import { historyOf } from '../../core/diagnose/history.ts';

type State = Pick<ShotState, 'renders' | 'findings' | 'trials'>;

/** @param found keys by render, in order. @param kept a trial kept for a key of a render */
function state(found: string[][], kept: { render: number; key: string }[] = []): State {
  let id = 0;
  const findings = found.flatMap((keys, k) => keys.map((key) => ({ id: ++id, renderId: k + 1, key })));
  return {
    renders: found.map((_, k) => ({ id: k + 1, purpose: 'base', sheet: 'preview', examined: 'done' })),
    findings,
    trials: kept.map(({ render, key }, k) => ({ number: k + 1, verdict: 'keep', findingId: findings.find((one) => one.renderId === render && one.key === key)!.id })), // prettier-ignore
  } as unknown as State;
}
const told = (of: State, render: number) => {
  const { gone, cameBack } = historyOf(of, render);
  return { gone: gone.map(({ finding, trial }) => [finding.key, trial]), cameBack: [...cameBack] };
};

describe('history of findings', () => {
  it('says by which kept trial one went, and that another went by itself', () => {
    const of = state([['grain', 'fireflies'], []], [{ render: 1, key: 'fireflies' }]);
    expect(told(of, 2)).to.deep.equal({ gone: [['grain', null], ['fireflies', 1]], cameBack: [] }); // prettier-ignore
  });

  it('tells what comes back from what stayed and what is new', () => {
    const of = state([['grain', 'fireflies'], ['grain'], ['grain', 'fireflies', 'cut-short.diffuse']]);
    expect(told(of, 3)).to.deep.equal({ gone: [], cameBack: [5] });
    expect(told(of, 2).gone).to.deep.equal([['fireflies', null]]);
  });

  it('is nothing for a first render, and for one whose causes are still looked for', () => {
    const of = state([['grain'], []]);
    expect(told(of, 1)).to.deep.equal({ gone: [], cameBack: [] });
    of.renders[1].examined = 'waiting';
    expect(told(of, 2)).to.deep.equal({ gone: [], cameBack: [] });
  });
});
