/**
 * Files that are missing, found among others: by their path, by what a list of checksums says of them, by name.
 * Of several of one name the one with most folders in common is taken; where that decides nothing, none is.
 *
 * @example
 * const { found } = relink(['textures/sign.png'], [{ path: 'old/textures/Sign.png', hash }]);
 */
export interface Candidate {
  path: string;
  /** Text that is the same for equal bytes alone. */
  hash: string;
}

export interface Relinked {
  found: { path: string; from: string; by: 'path' | 'checksum' | 'name' }[];
  /** Missing ones that several different files could be. */
  unclear: { path: string; from: string[] }[];
  lost: string[];
}

/** @param sums hashes that missing files had, by path, where anybody wrote them down */
export function relink(missing: string[], candidates: Candidate[], sums: Map<string, string> = new Map()): Relinked {
  const out: Relinked = { found: [], unclear: [], lost: [] };
  for (const path of missing) {
    const same = candidates.find((candidate) => candidate.path === path);
    const hash = sums.get(path);
    const equal = hash === undefined ? undefined : candidates.find((candidate) => candidate.hash === hash);
    if (same && (hash === undefined || same.hash === hash)) out.found.push({ path, from: same.path, by: 'path' });
    else if (equal) out.found.push({ path, from: equal.path, by: 'checksum' });
    else byName(path, candidates, out);
  }
  return out;
}

function byName(path: string, candidates: Candidate[], out: Relinked): void {
  const shared = candidates
    .map((candidate) => ({ ...candidate, common: commonEnd(path, candidate.path) }))
    .filter(({ common }) => common > 0);
  const most = Math.max(0, ...shared.map(({ common }) => common));
  const best = shared.filter(({ common }) => common === most);
  if (best.length === 0) out.lost.push(path);
  else if (best.every(({ hash }) => hash === best[0].hash)) out.found.push({ path, from: best[0].path, by: 'name' });
  else out.unclear.push({ path, from: best.map((candidate) => candidate.path).sort() });
}

/** Names that two paths have in common from their ends, whatever their case. */
function commonEnd(a: string, b: string): number {
  const [x, y] = [a, b].map((path) => path.toLowerCase().split('/').reverse());
  let n = 0;
  while (n < x.length && n < y.length && x[n] === y[n]) n += 1;
  return n;
}

/** Checksums by path, out of the text of a `SHA256SUMS` file; lines that are none are passed over. */
export function readSums(text: string): Map<string, string> {
  const lines = text.split('\n').map((line) => /^([0-9a-f]{64}) [ *](.+?)\r?$/i.exec(line));
  return new Map(lines.flatMap((match) => (match ? [[match[2].replace(/^\.\//, ''), match[1].toLowerCase()]] : [])));
}
