/** Patterns that people write: they mean what JavaScript's mean, in linear time. */
import { expect } from 'chai';
import { compilePattern, ours } from '../../core/data/pattern.ts';
import { LOG_FORMATS } from '../../core/intake/log/formats.ts';

describe('patterns', () => {
  const lines = [
    '+12.5s warning [trace] frame 3 mem 1.2 GB at crate-7: texture "wax.png" is missing',
    '! 0:01:02.5 <trace> f=3 m=12.25 th=4 o=crate-7 something odd',
    '',
    'aaaaaaaaaaaaaaaaaaaaaaaaaaaa!',
    '{"clock":"2026-01-01"}',
  ];

  it('find what the engine of the language finds, named groups and all', () => {
    const theirs = [
      ...LOG_FORMATS.flatMap((format) => [...format.lines, format.closing]),
      '(?<a>x)?(?<b>\\d+)',
      '\\bwax\\b',
    ];
    // Not marked as ours, since it is another text that means the same.
    for (const pattern of theirs) {
      const linear = compilePattern(`(?:)${pattern}`);
      const native = new RegExp(pattern);
      for (const line of lines) {
        expect(linear.test(line), `${pattern} on ${line}`).to.equal(native.test(line));
        const groups = native.exec(line)?.groups;
        if (groups) expect(linear.groups(line)).to.deep.equal({ ...groups });
      }
    }
    expect(compilePattern('^(COPY) of ', { ignoreCase: true }).test('copy of crate')).to.equal(true);
  });

  it('never run away: what keeps a backtracking engine busy for hours is told at once', () => {
    const begun = performance.now();
    for (const pattern of ['^(a+)+$', '^(?:a|aa)+$', '^(.*)*x$', '(x+x+)+y'])
      expect(compilePattern(pattern).test(`${'a'.repeat(2000)}!`)).to.equal(false);
    expect(performance.now() - begun, 'two thousand letters; thirty would do for the other').to.be.below(5000);
  });

  it('are refused where they cannot be run so', () => {
    for (const pattern of ['(?=a)b', '(?<!a)b', '(a)\\1', '(', 'a{100000}'])
      expect(() => compilePattern(pattern), pattern).to.throw();
  });

  it('that ship go through the language’s own engine', () => {
    ours(['(?=ship)s']);
    expect(compilePattern('(?=ship)s').test('a ship')).to.equal(true);
  });
});
