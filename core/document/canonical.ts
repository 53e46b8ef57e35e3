/** Canonical JSON text: the bytes a document is stored and compared as. Source: RFC 8785. */
import canonicalizeJson from 'canonicalize';

export function canonicalText(value: unknown): string {
  const text = (canonicalizeJson as unknown as (v: unknown) => string | undefined)(value);
  if (text === undefined) throw new TypeError('this value has no JSON text');
  return text;
}
