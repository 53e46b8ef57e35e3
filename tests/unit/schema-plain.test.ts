/** Where a page must not make code from text, schemas are checked without: with the verdict that Ajv gives. */
import { expect } from 'chai';
import { Value } from '@sinclair/typebox/value';
import { plainProblems } from '../../core/document/schema-check.ts';
import { completeDocument } from '../../core/document/complete.ts';
import { ShotDocumentSchema } from '../../core/document/schema.ts';
import { validateDocument } from '../../core/document/validate.ts';
import { smallShot } from '../api/small-shot.ts';

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
    let refused = 0;
    for (const path of places)
      for (const bad of [-1e12, {}]) {
        const changed = structuredClone(whole);
        const parent = path.slice(0, -1).reduce((at, key) => at[key], changed);
        parent[path.at(-1)!] = bad;
        const plain = Value.Check(ShotDocumentSchema, completeDocument(structuredClone(changed)));
        let isRefused = false;
        try {
          validateDocument(changed);
        } catch {
          isRefused = true;
        }
        // References and figures are checked besides, so that Ajv's own verdict is at least as mild.
        if (!plain) expect(isRefused, path.join('/')).to.equal(true);
        if (plain) continue;
        refused++;
        const [{ path: told }] = plainProblems(ShotDocumentSchema, completeDocument(changed));
        expect(`/${path.join('/')}`.startsWith(told), `${path.join('/')} told as ${told}`).to.equal(true);
      }
    expect(refused / places.length).to.be.above(1.2);
  });
});
