/** Lowering TypeScript to AssemblyScript: what is rewritten, what is taken along, and where it stops. */
import { expect } from 'chai';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';

interface Lowered {
  modules: Map<string, string>;
  structures: Record<string, string[][]>;
}
const { lower } = (await import(new URL('../../scripts/lib/lower.mjs', import.meta.url).href)) as {
  lower(options: {
    root: string;
    roots: [string, string][];
    prelude: string;
    replaced: Record<string, string>;
  }): Lowered;
};

describe('lowering', () => {
  const root = mkdtempSync(join(tmpdir(), 'dusting-lower-'));
  after(() => rmSync(root, { recursive: true, force: true }));
  const put = (path: string, text: string) => {
    mkdirSync(dirname(join(root, path)), { recursive: true });
    writeFileSync(join(root, path), text);
  };
  put('tsconfig.core.json', JSON.stringify({ compilerOptions: { strict: true, target: 'es2022', module: 'preserve', allowImportingTsExtensions: true, noEmit: true, types: [], lib: ['ES2023'] } })); // prettier-ignore
  put('core/numbers.ts', 'export type i32 = number;\nexport type f64 = number;\n');

  function of(text: string) {
    put('core/lamp.ts', `import type { i32, f64 } from './numbers.ts';\n${text}`);
    const { modules, structures } = lower({ root, roots: [['core/lamp.ts', 'Lamp']], prelude: 'core/prelude.ts', replaced: {} }); // prettier-ignore
    return { text: modules.get('core/lamp.ts')!.replace(/\s+/g, ' '), structures };
  }

  it('takes destructuring apart, divides as JavaScript does, and says what kind each number is', () => {
    const { text } = of(`
      export class Lamp {
        count: i32 = 3;
        readonly places = new Float64Array(4);
        share(of: number): number {
          const { count, places } = this;
          return places[0] + of / count;
        }
      }`);
    expect(text).to.contain('@final @unmanaged export class Lamp');
    expect(text).to.contain('places: F64s = new F64s(4)');
    expect(text).to.contain('const count = this.count, places = this.places');
    expect(text).to.contain('<f64>(of) / <f64>(count)');
    expect(text).to.contain('share(of: f64): f64');
  });

  it('takes along what is needed, constants worked out, and nothing else', () => {
    const { text } = of(`
      const STEP = 2 ** 3;
      const HALF = STEP / 16;
      export const unused = () => ({ a: [1, 2] });
      const twice = (x: number): number => x * 2;
      export class Lamp {
        power(): number { return twice(HALF) + Math.cos(1); }
      }`);
    expect(text).to.contain('export const HALF: f64 = 0.5');
    expect(text).to.match(/function twice\(x: f64\): f64 \{ return x \* 2; \}/);
    expect(text).to.contain('host_cos(1)');
    expect(text).not.to.contain('unused');
  });

  it('makes structures of interfaces, with the fields that are read and can be held', () => {
    const { text, structures } = of(`
      interface Shade { width: i32; name: string; never: number; values: Float32Array | null }
      export class Lamp {
        constructor(private readonly shade: Shade) {}
        width(): number { return this.shade.values !== null ? this.shade.values[0] : this.shade.width; }
      }`);
    expect(structures.Shade).to.deep.equal([
      ['width', 'i32'],
      ['values', 'array'],
    ]);
    expect(text).to.contain('known(this.shade.values)[0]');
  });

  it('stops at a field whose kind of number nobody says, naming file and line', () => {
    expect(() => of('export class Lamp {\n  count = 3;\n}')).to.throw(
      'core/lamp.ts:3: say whether count is an i32 or an f64',
    );
    expect(() => of("const NAMES = ['a'];\nexport class Lamp {\n  first(): number { return NAMES.indexOf('a'); }\n}")).to.throw('core/lamp.ts:2: NAMES is no number known beforehand'); // prettier-ignore
  });
});
