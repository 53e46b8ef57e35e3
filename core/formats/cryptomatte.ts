/**
 * Object ids with names in a picture's header, after the Cryptomatte specification 1.2.0: each pixel holds pairs of an
 * id and its coverage, most first, in layers `name00`, `name01` …; ids are 32-bit hashes of names, kept as floats.
 *
 * @example
 * const [objects] = manifestsOf(part.attributes);            // { name: 'crypto_object', ids: Map('jar' → 3.2e-7) }
 * const matte = matteOf(objects, 'jar', part.planes, part.channels.map((c) => c.name));
 */
export interface MatteSet {
  /** Layer that the channels stand in, without their number. */
  name: string;
  /** Id as a float by the name of what it stands for. */
  ids: Map<string, number>;
}

/** @param attributes of a part. Sets whose manifest is missing or broken have no names */
export function manifestsOf(attributes: Record<string, unknown>): MatteSet[] {
  return Object.entries(attributes).flatMap(([key, value]) => {
    const match = /^cryptomatte\/([^/]+)\/name$/.exec(key);
    if (!match || typeof value !== 'string') return [];
    return [{ name: value, ids: readManifest(attributes[`cryptomatte/${match[1]}/manifest`]) }];
  });
}

function readManifest(text: unknown): Map<string, number> {
  const ids = new Map<string, number>();
  if (typeof text !== 'string') return ids;
  try {
    for (const [name, hex] of Object.entries(JSON.parse(text) as Record<string, unknown>))
      if (typeof hex === 'string' && /^[0-9a-f]{1,8}$/i.test(hex)) ids.set(name, floatOf(Number.parseInt(hex, 16)));
  } catch {
    ids.clear();
  }
  return ids;
}

/** Layers of a set in their order, each with two pairs of channels of ids and coverages. */
function ranksOf(set: string, channels: string[]): { id: string; coverage: string }[] {
  const own = new Map<string, string>();
  for (const name of channels) {
    const match = /^(.*?)(\d\d)\.([A-Za-z]+)$/.exec(name);
    if (match?.[1] === set) own.set(`${match[2]}.${match[3][0].toLowerCase()}`, name);
  }
  const layers = [...new Set([...own.keys()].map((key) => key.slice(0, 2)))].sort();
  return layers.flatMap((layer) =>
    (['rg', 'ba'] as const).flatMap(([i, c]) => {
      const [id, coverage] = [own.get(`${layer}.${i}`), own.get(`${layer}.${c}`)];
      return id !== undefined && coverage !== undefined ? [{ id, coverage }] : [];
    }),
  );
}

/** How much of each pixel something of a set covers, 0–1. @throws RangeError for a name that the set has not */
export function matteOf(
  set: MatteSet,
  of: string,
  planes: Map<string, ArrayLike<number>>,
  channels: string[],
): Float32Array {
  const id = set.ids.get(of);
  if (id === undefined) throw new RangeError(`${set.name} names no "${of}"`);
  const ranks = ranksOf(set.name, channels);
  const size = planes.values().next().value?.length ?? 0;
  const out = new Float32Array(size);
  for (const rank of ranks) {
    const [ids, coverage] = [planes.get(rank.id), planes.get(rank.coverage)];
    if (!ids || !coverage) continue;
    for (let i = 0; i < size; i++) if (ids[i] === id) out[i] += coverage[i];
  }
  return out;
}

/** What covers most of a pixel, by name; null where nothing does. */
export function namedAt(
  set: MatteSet,
  at: number,
  planes: Map<string, ArrayLike<number>>,
  channels: string[],
): string | null {
  let best: { id: number; coverage: number } | null = null;
  for (const rank of ranksOf(set.name, channels)) {
    const coverage = planes.get(rank.coverage)?.[at] ?? 0;
    if (coverage > (best?.coverage ?? 0)) best = { id: planes.get(rank.id)![at], coverage };
  }
  return best && ([...set.ids].find(([, id]) => id === best.id)?.[0] ?? null);
}

/** Attributes that name a set in a header. @param names of all that its ids stand for */
export function manifestAttributes(set: string, names: string[]): Record<string, string> {
  const key = `cryptomatte/${hexOf(murmur3(set)).slice(0, 7)}`;
  const manifest = Object.fromEntries(names.map((name) => [name, hexOf(idBits(name))]));
  return {
    [`${key}/name`]: set,
    [`${key}/hash`]: 'MurmurHash3_32',
    [`${key}/conversion`]: 'uint32_to_float32',
    [`${key}/manifest`]: JSON.stringify(manifest),
  };
}

const hexOf = (bits: number): string => (bits >>> 0).toString(16).padStart(8, '0');

/** Id of a name as the float that stands in channels. */
export const idOf = (name: string): number => floatOf(idBits(name));

/** Exponents of all zeros or ones would be no plain numbers: their lowest bit is turned over. */
function idBits(name: string): number {
  const hash = murmur3(name);
  const exponent = (hash >>> 23) & 255;
  return exponent === 0 || exponent === 255 ? (hash ^ (1 << 23)) >>> 0 : hash;
}

function floatOf(bits: number): number {
  return new Float32Array(Uint32Array.of(bits).buffer)[0];
}

/** MurmurHash3, 32 bits, seed 0, of the name's UTF-8. Source: Appleby, public domain. */
export function murmur3(text: string): number {
  const bytes = new TextEncoder().encode(text);
  const view = new DataView(bytes.buffer);
  const mixed = (k: number) => {
    const a = Math.imul(k, 0xcc9e2d51);
    return Math.imul((a << 15) | (a >>> 17), 0x1b873593);
  };
  let hash = 0;
  const whole = bytes.length & ~3;
  for (let i = 0; i < whole; i += 4) {
    hash ^= mixed(view.getUint32(i, true));
    hash = (Math.imul((hash << 13) | (hash >>> 19), 5) + 0xe6546b64) | 0;
  }
  let tail = 0;
  for (let i = bytes.length - 1; i >= whole; i--) tail = (tail << 8) | bytes[i];
  if (bytes.length & 3) hash ^= mixed(tail);
  hash ^= bytes.length;
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return (hash ^ (hash >>> 16)) >>> 0;
}
