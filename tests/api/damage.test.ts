/** What disks do to what is stored: found on every read, never served, mended by the same bytes; and disks that are full. */
import { expect } from 'chai';
import { execFileSync } from 'node:child_process';
import { mkdirSync, readdirSync, rmSync, statSync } from 'node:fs';
import { open, readFile, rm, writeFile } from 'node:fs/promises';
import { get } from 'node:http';
import { join } from 'node:path';
import { direct, expectSame } from './direct-render.ts';
import { flatPng } from './foreign-bytes.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot, type SmallShot } from './small-shot.ts';

describe('damage on the disk', function () {
  this.timeout(120_000);
  let dusting: Dusting;
  let shot: SmallShot;

  beforeEach(async () => {
    dusting = await Dusting.create();
    await dusting.server();
    shot = await smallShot('SCAR-1');
  });
  afterEach(() => dusting.destroy());

  const place = (hash: string) => join(dusting.folder, 'blobs', hash.slice(0, 2), hash);

  /** Turns one bit round, as a disk does. */
  async function flip(hash: string): Promise<void> {
    const file = await open(place(hash), 'r+');
    const { size } = statSync(place(hash));
    const byte = Buffer.alloc(1);
    await file.read(byte, 0, 1, Math.floor(size / 2));
    byte[0] ^= 16;
    await file.write(byte, 0, 1, Math.floor(size / 2));
    await file.close();
  }

  const lastFilm = async () => (await dusting.query<{ film: string; tile: number }>('select film, tile from tiles order by groups desc, tile limit 1'))[0]; // prettier-ignore
  const manifest = async () => JSON.parse((await dusting.query<{ manifest: string }>('select manifest from versions order by id desc limit 1'))[0].manifest) as Record<string, string>; // prettier-ignore
  const render = async () => {
    const { id } = (await dusting.post<{ id: number }>('/shots/SCAR-1/renders', { sheet: 'preview', region: null }))
      .body;
    return id;
  };

  it('of a film is found by the picture, figures, pixels and export, and rendering again mends it', async () => {
    dusting.worker(2);
    await dusting.send(filesOf(shot));
    await dusting.reach('SCAR-1', 1, 'done');
    const before = await dusting.bits(1);
    const { film, tile } = await lastFilm();
    await flip(film);
    const reads = [
      '/renders/1/picture?passes=albedo',
      '/renders/1/figures',
      '/renders/1/exr',
      '/renders/1/mask?object=wall',
      `/renders/1/pixel?x=${tile % 3 === 0 ? 8 : 48}&y=40`,
    ];
    for (const path of reads.slice(0, 4)) {
      const { status, body } = await dusting.get<{ error: string }>(path);
      expect(status, path).to.equal(409);
      expect(body.error).to.match(
        new RegExp(`Tile ${tile} of render 1 was changed on the disk.*Render version and sheet again`),
      );
    }
    const again = await render();
    await dusting.reach('SCAR-1', again, 'done');
    expect(
      (await fetch(`${dusting.address}/api/renders/1/figures`)).status,
      'the same pixels are the same bytes',
    ).to.equal(200);
    expectSame(before, await dusting.bits(1), 'the first render, mended by the second');
    await rm(place(film));
    const gone = await dusting.get<{ error: string }>('/renders/1/picture?passes=depth');
    expect(gone.status).to.equal(409);
    expect(gone.body.error).to.match(/is gone from the disk/);
  });

  it('of a film that is rendered on is rendered from its first group, to the same bits', async () => {
    await dusting.send(filesOf(shot));
    const worker = dusting.worker(1);
    await until('there are pixels', async () => (await dusting.render('SCAR-1', 1)).samplesDone >= 4);
    await dusting.kill(worker);
    for (const { film } of await dusting.query<{ film: string }>('select film from tiles')) await flip(film);
    dusting.worker(2);
    await dusting.reach('SCAR-1', 1, 'done');
    expectSame(await direct(shot, 16), await dusting.bits(1), 'rendered anew where it was damaged');
  });

  it('of a shot’s file: the render says so after its tries and how to go on, package and dry run as well', async () => {
    await dusting.send(filesOf(shot));
    const hash = (await manifest())['geometry/panes.glb'];
    await flip(hash);
    dusting.worker(1);
    await dusting.reach('SCAR-1', 1, 'failed', 60);
    const { error } = await dusting.render('SCAR-1', 1);
    expect(error).to.match(
      /geometry\/panes\.glb was changed on the disk\. Import it again.*tried 5 times.*Continue or restart the render/,
    );
    for (const answer of [
      dusting.get('/shots/SCAR-1/package.zip'),
      dusting.post('/shots/SCAR-1/dry-run'),
      dusting.get(`/files/${hash}`),
    ]) {
      const { status, body } = await answer;
      expect(status).to.equal(409);
      expect(body.error).to.match(/changed on the disk/);
    }
    const { head } = await dusting.shot('SCAR-1');
    const sent = await dusting.send(
      [['geometry/panes.glb', shot.files.get('geometry/panes.glb')!]],
      `/shots/SCAR-1/files?base=${head.id}`,
    );
    expect(sent.status, JSON.stringify(sent.body)).to.equal(200);
    expect((await fetch(`${dusting.address}/api/files/${hash}`)).status).to.equal(200);
    expect((await dusting.post('/renders/1/continue', { samples: 16 })).status).to.equal(204);
    await dusting.reach('SCAR-1', 1, 'done');
    expectSame(await direct(shot, 16), await dusting.bits(1), 'after the file came again');
  });

  it('of a picture is never served, and mended when it is brought in again', async () => {
    await dusting.send(filesOf(shot));
    const bring = async () => {
      const response = await fetch(`${dusting.address}/api/shots/SCAR-1/pictures?name=wax.png`, { method: 'POST', headers: { 'Content-Type': 'application/octet-stream' }, body: flatPng(40) as Uint8Array<ArrayBuffer> }); // prettier-ignore
      return ((await response.json()) as { picture: number }).picture;
    };
    const id = await bring();
    const [{ blob }] = await dusting.query<{ blob: string }>('select blob from pictures');
    await flip(blob);
    expect((await dusting.get(`/pictures/${id}/file`)).status).to.equal(409);
    expect(await bring(), 'it is the same picture').to.equal(id);
    const whole = await fetch(`${dusting.address}/api/pictures/${id}/file`);
    expect(Buffer.from(await whole.arrayBuffer()).equals(flatPng(40))).to.equal(true);
    expect(whole.headers.get('etag')).to.equal(`"${blob}"`);
    // By hand: `fetch` asks past every cache when it is given a validator.
    const known = await new Promise<number>((resolve) => get(`${dusting.address}/api/pictures/${id}/file`, { headers: { 'If-None-Match': `"${blob}"` } }, (response) => resolve(response.resume().statusCode!))); // prettier-ignore
    expect(known).to.equal(304);
  });

  it('collects what nothing refers to, and never what is put again', async () => {
    await dusting.send(filesOf(shot));
    dusting.worker(2);
    await dusting.reach('SCAR-1', 1, 'done');
    const storage = (await dusting.get('/shots/SCAR-1/storage')).body;
    expect(storage.freed).to.be.above(100_000).and.equal(storage.bytes);
    const parts = storage.parts as { kind: string; id: number; bytes: number; why: string | null }[];
    expect(parts.find(({ kind }) => kind === 'version')!.why).to.match(/current version/);
    expect((await dusting.post('/versions/1', '', 'DELETE')).status).to.equal(409);
    const second = await render();
    expect((await dusting.post(`/renders/${second}`, '', 'DELETE')).status, 'while it renders').to.equal(409);
    await dusting.reach('SCAR-1', second, 'done');
    // Both renders are the same pixels: deleting one frees nothing but the time it took.
    const shared = (await dusting.get('/shots/SCAR-1/storage')).body.parts.find((part: { kind: string; id: number }) => part.kind === 'render' && part.id === 1); // prettier-ignore
    expect(shared.bytes).to.be.below(storage.freed / 4);
    await until('causes are looked for', async () => (await dusting.render('SCAR-1', second)).examined === 'done');
    expect((await dusting.post('/renders/1', '', 'DELETE')).status).to.equal(204);
    expect((await dusting.shot('SCAR-1')).renders.map(({ id }) => id)).to.deep.equal([second]);
    expect((await dusting.get(`/renders/1/figures`)).status).to.equal(404);
    expectSame(await direct(shot, 16), await dusting.bits(second), 'what the other render needs stays');
    expect((await dusting.post('/shots/SCAR-1/archived', { archived: true }, 'PUT')).status).to.equal(204);
    expect((await dusting.get('/shots')).body[0].archived).to.equal(true);
    expect((await dusting.post('/shots/SCAR-1?confirm=SCAR-2', '', 'DELETE')).status).to.equal(409);
    expect((await dusting.post('/shots/SCAR-1?confirm=SCAR-1', '', 'DELETE')).status).to.equal(204);
    expect((await dusting.get('/shots')).body).to.deep.equal([]);
    const rows = await dusting.query<{ n: number }>('select (select count(*) from versions) + (select count(*) from renders) + (select count(*) from tiles) + (select count(*) from findings) + (select count(*) from preflights) as n'); // prettier-ignore
    expect(Number(rows[0].n)).to.equal(0);
    expect((await dusting.send(filesOf(shot))).status, 'its code is free').to.equal(201);
  });

  it('that is full or cannot be written is told at once; reading goes on, and work by itself once there is room', async function () {
    const blobs = join(dusting.folder, 'blobs');
    await dusting.stop();
    rmSync(blobs, { recursive: true, force: true });
    mkdirSync(blobs);
    try {
      execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=120m', 'none', blobs], { stdio: 'pipe' });
    } catch {
      // Only root may mount; the rest of these tests needs no root.
      this.skip();
    }
    try {
      await dusting.server();
      const worker = dusting.worker(1);
      await dusting.send(filesOf(await smallShot('FULL-1', { samples: 256 })));
      await until('there are pixels', async () => (await dusting.render('FULL-1', 1)).samplesDone >= 8);
      const heard = dusting.listen('/events');
      const full = Date.now();
      await writeFile(join(blobs, 'ballast'), Buffer.alloc(200 * 2 ** 20)).catch(() => {});
      await until('every page is told', async () => /"kind":"storage","text":"The disk is full/.test(heard.text()), 10);
      console.log(`      (told after ${((Date.now() - full) / 1000).toFixed(1)} s)`);
      expect((Date.now() - full) / 1000).to.be.below(5);
      expect((await dusting.get('/shots')).status).to.equal(200);
      expect((await fetch(`${dusting.address}/api/renders/1/picture`)).status, 'reading goes on').to.equal(200);
      const large = Buffer.concat([Buffer.from('PF\n700 700\n-1.0\n'), Buffer.alloc(700 * 700 * 12)]);
      const sent = await fetch(`${dusting.address}/api/pictures?name=large.pfm`, { method: 'POST', headers: { 'Content-Type': 'application/octet-stream' }, body: large as Uint8Array<ArrayBuffer> }); // prettier-ignore
      expect(sent.status).to.equal(507);
      expect(((await sent.json()) as { error: string }).error).to.match(/The disk is full\. Nothing was kept/);
      expect((await dusting.render('FULL-1', 1)).state, 'it waits and does not fail').to.equal('active');
      await rm(join(blobs, 'ballast'));
      await until('the notice is gone', async () => heard.text().trimEnd().endsWith('data: []') || /notices\ndata: \[\]\n\n(?!.*storage)/.test(heard.text().slice(-4000)), 10); // prettier-ignore
      await dusting.reach('FULL-1', 1, 'done', 90);
      expect(worker.exitCode).to.equal(null);
      heard.close();
      await dusting.stop();
    } finally {
      await dusting.stop();
      execFileSync('umount', [blobs]);
    }
  });

  it('leaves no half-written files', async () => {
    await dusting.send(filesOf(shot));
    const left = readdirSync(join(dusting.folder, 'blobs'), { recursive: true }).filter((name) =>
      String(name).endsWith('.part'),
    );
    expect(left).to.deep.equal([]);
    expect((await readFile(place((await manifest())['geometry/panes.glb']))).length).to.be.above(100);
  });
});
