/** Nothing that comes in stalls the server: while it is read, others are answered, and the process that answers stays small. */
import { expect } from 'chai';
import type { ChildProcess } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { readdir } from 'node:fs/promises';
import { request } from 'node:http';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { flatPng, zip } from './foreign-bytes.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

/**
 * Milliseconds that the longest answer may take while something heavy is read. What is looked for took minutes; this much
 * may come of two cores that are busy with other tests as well.
 */
const LONGEST_ANSWER = 6000;
const MOST_MEMORY = 2 ** 30;

describe('stalls', function () {
  this.timeout(180_000);
  let dusting: Dusting;
  let server: ChildProcess;

  before(async () => {
    dusting = await Dusting.create({ DUSTING_APART_MEMORY: '600' });
    server = await dusting.server();
    await dusting.send(filesOf(await smallShot('BUSY-1')));
  });
  after(() => dusting.destroy());

  /** What `work` gives, with the longest answer that others waited for meanwhile. */
  async function meanwhile<T>(work: () => Promise<T>): Promise<T> {
    let longest = 0;
    let isOver = false;
    const ping = (async () => {
      while (!isOver) {
        const begun = performance.now();
        await dusting.get('/health');
        longest = Math.max(longest, performance.now() - begun);
        await sleep(5);
      }
    })();
    const begun = performance.now();
    const result = await work().finally(() => (isOver = true));
    await ping;
    console.log(
      `      (${((performance.now() - begun) / 1000).toFixed(1)} s; longest answer meanwhile ${longest.toFixed(0)} ms)`,
    );
    expect(longest).to.be.below(LONGEST_ANSWER);
    return result;
  }

  /** Most memory that the process that answers has ever had, bytes. */
  const peak = () => Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))![1]) * 1024;

  afterEach('the process that answers is small, and nothing is left', async () => {
    expect(peak()).to.be.below(MOST_MEMORY);
    expect(await readdir(join(dusting.folder, 'uploads')).catch(() => [])).to.deep.equal([]);
  });

  it('an archive of 184 kB that holds 180 MB of brackets', async () => {
    const bomb = await zip([['shot.json', Buffer.alloc(180 * 2 ** 20, '[],')]]);
    expect(bomb.length).to.be.below(250_000);
    const { status, body } = await meanwhile(() => dusting.send([['shot.zip', bomb]]));
    expect(status).to.equal(413);
    expect(body.error).to.match(/shot\.json has 180\.0 MB; a document has 16 MB at most/);
  });

  it('a document that is one bracket in the other, eight million times', async () => {
    const { status, body } = await meanwhile(() => dusting.send([['shot.json', Buffer.alloc(8e6, '[')]]));
    expect(status).to.equal(400);
    expect(body.error).to.match(/nested 8000000 deep, expected at most 64 levels/);
  });

  it('a document of 15 MB that is as it should be', async () => {
    const { document, files } = await smallShot('LARGE-1');
    const spare = JSON.stringify(document.objects.wall).length;
    for (let i = 0; i * spare < 14.5e6; i++)
      document.objects[`crate-${i}`] = { ...document.objects.wall, name: `crate ${i}` };
    const all = filesOf({ document, files });
    const { status, body } = await meanwhile(() => dusting.send(all));
    expect(status, JSON.stringify(body).slice(0, 300)).to.equal(201);
    // Not parsed meanwhile: that would hold up this process, which asks for the others' answers.
    const state = await meanwhile(async () => (await fetch(`${dusting.address}/api/shots/LARGE-1`)).text());
    expect(state.length, 'the state holds no document').to.be.below(100_000);
    const { head } = JSON.parse(state) as { head: { id: number } };
    const text = await meanwhile(async () => (await fetch(`${dusting.address}/api/versions/${head.id}/document`)).text()); // prettier-ignore
    expect(text.match(/"crate-\d+":/g)!.length).to.be.above(5000);
    const set = await meanwhile(() =>
      dusting.post('/shots/LARGE-1/dials', { base: head.id, sheets: ['preview'], values: { '/samples': 32 } }),
    );
    expect(set.status).to.equal(204);
  });

  it('a picture of 0.4 MB that states 12,000 × 12,000 pixels', async () => {
    const picture = flatPng(12_000);
    const { status, body } = await meanwhile(() => bring('large.png', picture));
    expect(status).to.equal(400);
    expect(body.error).to.match(/12000 × 12000 pixels, more than fit/);
  });

  it('a picture that needs more memory than reading may take', async () => {
    const picture = flatPng(7000);
    const { status, body } = await meanwhile(() => bring('heavy.png', picture));
    expect(status).to.equal(413);
    expect(body.error).to.match(/more than the 600 MB of memory it may/);
    expect((await bring('light.png', flatPng(64))).status, 'the next is read as before').to.equal(201);
  });

  it('a picture that takes longer than reading may take', async () => {
    const hurried = await Dusting.create({ DUSTING_APART_SECONDS: '1' });
    await hurried.server();
    const { status, body } = await bring('slow.png', flatPng(4000), hurried);
    expect(status).to.equal(413);
    expect(body.error).to.match(/took more than 1 s and was stopped/);
    await hurried.destroy();
  });

  it('a pattern that backtracks for ever, on a line of thirty letters', async () => {
    const format = { schema: 'dusting.log-format/1', name: 'Evil', lines: ['^(?<message>(a+)+)$'], severities: {}, time: 'seconds', memoryUnit: 1, closing: '(x+x+)+y' }; // prettier-ignore
    expect((await dusting.post('/profiles/log-format', { text: JSON.stringify(format) }, 'PUT')).status).to.equal(200);
    const lines = Array.from({ length: 500 }, () => `${'a'.repeat(30)}!\n${'x'.repeat(40)}`).join('\n');
    const added = await meanwhile(() => sendLog('evil.log', lines));
    expect(added.status).to.equal(201);
    const look = { ...format, name: 'Ahead', lines: ['^(?=x)(?<message>.*)$'] };
    const refused = await dusting.post('/profiles/log-format', { text: JSON.stringify(look) }, 'PUT');
    expect(refused.status).to.equal(400);
    expect(refused.body.error).to.match(/\/lines\/0 is .*without look-around/);
    const names = { schema: 'dusting.preflight/1', name: 'Evil names', placeholderNames: ['^(a+)+$'] };
    expect((await dusting.post('/profiles/show', { text: JSON.stringify(names) }, 'PUT')).status).to.equal(200);
  });

  it('a model of a million lines, by somebody who leaves', async () => {
    const model = `${'v 1.25 2.5 3.75\n'.repeat(900_000)}${'f 1 2 3\n'.repeat(300_000)}`;
    const form = new FormData();
    form.append('files', new Blob([model]), 'model.obj');
    const leaving = new AbortController();
    const sending = fetch(`${dusting.address}/api/shots`, { method: 'POST', body: form, signal: leaving.signal });
    await until('it is being read', async () => (await readdir(join(dusting.folder, 'uploads'))).length === 1);
    await sleep(1500);
    leaving.abort();
    await sending.catch(() => {});
    await until('nothing is left of it', async () => (await readdir(join(dusting.folder, 'uploads'))).length === 0, 5);
    expect((await dusting.get('/shots')).body.map((shot: { code: string }) => shot.code)).to.not.include('model');
    expect((await bring('next.png', flatPng(64))).status).to.equal(201);
  });

  it('twenty uploads that break off: nothing is left of any', async () => {
    const body = Buffer.alloc(200_000, '-');
    const head = '--x\r\nContent-Disposition: form-data; name="files"; filename="a/big.bin"\r\n\r\n';
    await Promise.all(
      Array.from(
        { length: 20 },
        (_, i) =>
          new Promise<void>((resolve) => {
            const sending = request(`${dusting.address}/api/shots`, {
              method: 'POST',
              headers: { 'Content-Type': 'multipart/form-data; boundary=x', 'Content-Length': 50e6 },
            });
            sending.on('error', () => resolve());
            sending.on('close', () => resolve());
            sending.write(head);
            sending.write(body);
            setTimeout(() => sending.destroy(), 20 + i * 15);
          }),
      ),
    );
    await until('all are gone', async () => (await readdir(join(dusting.folder, 'uploads'))).length === 0, 20);
    // One that is there for a moment is the server's, which tries now and then whether the disk can be written.
    const halves = () => readdirSync(join(dusting.folder, 'blobs')).filter((name) => name.endsWith('.part'));
    await until('no half of a file is left', async () => halves().length === 0, 5);
  });

  async function bring(name: string, bytes: Uint8Array, to = dusting) {
    const response = await fetch(`${to.address}/api/pictures?name=${name}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: bytes as Uint8Array<ArrayBuffer>,
    });
    return { status: response.status, body: (await response.json()) as { error: string } };
  }

  async function sendLog(name: string, text: string) {
    const headers = { 'Content-Type': 'text/plain' };
    const response = await fetch(`${dusting.address}/api/shots/BUSY-1/logs?name=${name}`, {
      method: 'POST',
      headers,
      body: text,
    });
    return { status: response.status, body: await response.json() };
  }
});
