/** Files that are made of what is stored: once for each state, for whoever asks meanwhile, and gone again. */
import { expect } from 'chai';
import { mkdtemp, readdir, readFile, rm, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { BlobStore } from '../../server/blobs.ts';
import { MadeFiles } from '../../server/made-files.ts';

describe('made files', () => {
  let folder: string;
  beforeEach(async () => {
    folder = await mkdtemp(join(tmpdir(), 'dusting-made-'));
  });
  afterEach(() => rm(folder, { recursive: true, force: true }));

  it('are made once, however many ask at the same time, and again for another state', async () => {
    const made = new MadeFiles(folder, 1e9);
    let times = 0;
    const make = async (place: string) => {
      times += 1;
      await sleep(20);
      await writeFile(place, `made ${times}`);
    };
    const places = await Promise.all(
      Array.from({ length: 9 }, () => made.place({ of: 'figures-1', state: '3' }, make)),
    );
    expect(new Set(places).size).to.equal(1);
    await made.place({ of: 'figures-1', state: '3' }, make);
    expect(times).to.equal(1);
    const next = await made.place({ of: 'figures-1', state: '4' }, make);
    expect(await readFile(next, 'utf8')).to.equal('made 2');
    expect(await readdir(folder), 'the older state is gone').to.deep.equal(['figures-1@4']);
  });

  it('that fail leave nothing, and are tried again', async () => {
    const made = new MadeFiles(folder, 1e9);
    const failed = await made
      .place({ of: 'a', state: '1' }, async (place) => {
        await writeFile(place, 'half');
        throw new Error('the disk went away');
      })
      .catch((error: Error) => error.message);
    expect(failed).to.equal('the disk went away');
    expect(await readdir(folder)).to.deep.equal([]);
    expect(await readFile(await made.place({ of: 'a', state: '1' }, (place) => writeFile(place, 'whole')), 'utf8')).to.equal('whole'); // prettier-ignore
  });

  it('go when they are too many, those asked for longest ago first', async () => {
    const made = new MadeFiles(folder, 25);
    for (const name of ['old', 'middle', 'new']) {
      const place = await made.place({ of: name, state: '1' }, (at) => writeFile(at, Buffer.alloc(10)));
      const at = new Date(Date.now() - { old: 3, middle: 2, new: 1 }[name]! * 60_000);
      await utimes(place, at, at);
    }
    await made.place({ of: 'old', state: '1' }, async () => {});
    await made.trim();
    expect((await readdir(folder)).sort()).to.deep.equal(['new@1', 'old@1']);
  });
});

describe('collecting blobs', function () {
  this.timeout(30_000);
  let folder: string;
  beforeEach(async () => {
    folder = await mkdtemp(join(tmpdir(), 'dusting-collect-'));
  });
  afterEach(() => rm(folder, { recursive: true, force: true }));

  it('never takes one that is put again at the same moment, by whatever process', async () => {
    const [putting, collecting, reading] = [new BlobStore(folder), new BlobStore(folder), new BlobStore(folder)];
    const bytes = new TextEncoder().encode('the same wax again and again');
    const hash = await putting.put(bytes);
    const past = new Date(Date.now() - 7200_000);
    for (let i = 0; i < 300; i++) {
      await utimes(putting.place(hash), past, past);
      const [, kept] = await Promise.all([collecting.collect(new Set(), 3600_000), putting.put(bytes)]);
      expect(kept).to.equal(hash);
      expect(Buffer.from(await reading.get(hash)).toString(), `round ${i}`).to.equal('the same wax again and again');
    }
  });

  it('leaves blobs that were damaged to be mended by the same bytes', async () => {
    const blobs = new BlobStore(folder);
    const bytes = new TextEncoder().encode('honey');
    const hash = await blobs.put(bytes);
    await blobs.sound(hash);
    await writeFile(blobs.place(hash), 'hOney');
    expect(await blobs.sound(hash).catch((error: Error) => error.name)).to.equal('DamagedBlob');
    await blobs.put(bytes);
    expect(await readFile(await blobs.sound(hash), 'utf8')).to.equal('honey');
  });
});
