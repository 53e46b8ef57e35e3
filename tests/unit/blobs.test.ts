/** Bytes by their hash: whole or not there, and nothing swept that is in use. */
import { expect } from 'chai';
import { createHash } from 'node:crypto';
import { mkdtemp, readdir, rm, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { BlobStore, type DamagedBlob } from '../../server/blobs.ts';

describe('blobs', () => {
  let folder: string;
  let blobs: BlobStore;
  const bytes = (text: string) => new TextEncoder().encode(text);
  beforeEach(async () => {
    folder = await mkdtemp(join(tmpdir(), 'dusting-blobs-'));
    blobs = new BlobStore(folder);
  });
  afterEach(() => rm(folder, { recursive: true, force: true }));

  it('are found by their SHA-256 and stored once, also when put at the same time', async () => {
    const hashes = await Promise.all(Array.from({ length: 8 }, () => blobs.put(bytes('honey'))));
    const want = createHash('sha256').update('honey').digest('hex');
    expect(new Set(hashes)).to.deep.equal(new Set([want]));
    expect(Buffer.from(await blobs.get(want)).toString()).to.equal('honey');
    expect(await readdir(join(folder, want.slice(0, 2)))).to.deep.equal([want]);
  });

  it('are refused when they changed on disk or are not there', async () => {
    const hash = await blobs.put(bytes('wax'));
    await writeFile(join(folder, hash.slice(0, 2), hash), 'water');
    expect(await blobs.get(hash).catch((e: Error) => e.message)).to.match(/were changed on the disk/);
    expect(await blobs.get('0'.repeat(64)).catch((e: DamagedBlob) => e.isGone)).to.equal(true);
  });

  it('are swept when old and unused; young ones and used ones stay', async () => {
    const [used, old, young] = await Promise.all(['a', 'b', 'c'].map((t) => blobs.put(bytes(t))));
    const past = new Date(Date.now() - 7200_000);
    for (const hash of [used, old]) await utimes(join(folder, hash.slice(0, 2), hash), past, past);
    expect(await blobs.collect(new Set([used]), 3600_000)).to.deep.equal({ removed: 1, bytes: 1 });
    await blobs.get(used);
    await blobs.get(young);
    expect(await blobs.get(old).catch((e: DamagedBlob) => e.isGone)).to.equal(true);
  });
});
