/** Schemas are checked without code made of them first, with the verdict that Ajv gives. */
import { expect } from 'chai';
import { Value } from '@sinclair/typebox/value';
import { Ajv } from 'ajv';
import { plainProblems } from '../../core/document/schema-check.ts';
import { completeDocument } from '../../core/document/complete.ts';
import { isSafePath, SAFE_PATH } from '../../core/document/safe-path.ts';
import { ShotDocumentSchema } from '../../core/document/schema.ts';
import { validateDocument } from '../../core/document/validate.ts';
import { smallShot } from '../api/small-shot.ts';
import { atSize } from './size.ts';

describe('schemas checked without compiled code', () => {
  it('agree with Ajv about documents with one value spoiled, and name its place', async () => {
    const { document } = await smallShot('PLAIN');
    const whole = validateDocument(document) as unknown as Record<string, any>;
    expect(Value.Check(ShotDocumentSchema, whole)).to.equal(true);
    const places: string[][] = [];
    const walk = (value: unknown, path: string[]) => {
      if (value && typeof value === 'object')
        for (const [key, child] of Object.entries(value)) walk(child, [...path, key]);
      else places.push(path);
    };
    walk(whole, []);
    const ajv = new Ajv({ strict: false, logger: false });
    ajv.addFormat(SAFE_PATH, isSafePath);
    const byAjv = ajv.compile(ShotDocumentSchema);
    let refused = 0;
    const agree = (changed: unknown, path: string[], told: string[]) => {
      const completed = completeDocument(structuredClone(changed));
      const isFit = Value.Check(ShotDocumentSchema, completed);
      expect(isFit, `${path.join('/')} ${told.join(' ')}`).to.equal(byAjv(completed));
      if (isFit) return;
      refused++;
      const [{ path: place }] = plainProblems(ShotDocumentSchema, completed);
      expect(`/${path.join('/')}`.startsWith(place), `${path.join('/')} told as ${place}`).to.equal(true);
    };
    let tried = 0;
    for (const [i, path] of places.entries())
      for (const [k, bad] of [-1e12, {}, 1.5, '', '../up', null, [], true].entries()) {
        // Two of them a place, in turn; all in `npm run verify`.
        if (atSize((i + k) % 4 !== 0, false)) continue;
        tried += 1;
        const changed = structuredClone(whole);
        const parent = path.slice(0, -1).reduce((at, key) => at[key], changed);
        parent[path.at(-1)!] = bad;
        agree(changed, path, [JSON.stringify(bad)]);
      }
    for (const key of Object.keys(whole)) agree({ ...structuredClone(whole), [`${key}s`]: 1 }, [`${key}s`], ['added']);
    expect(refused / tried).to.be.above(5 / 8);
  });
});
