/** Nobody gets in or out: file names, hosts, other sites' pages, bodies; sign-in, alone and behind a proxy of Debian's. */
import { expect } from 'chai';
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { request as httpRequest } from 'node:http';
import { request as httpsRequest } from 'node:https';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import yazl from 'yazl';
import { Dusting, freePort, until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

interface Raw {
  status: number;
  headers: Record<string, string | string[] | undefined>;
  text: string;
}

/** A request with exactly these headers: `fetch` sets some by itself. */
function raw(
  address: string,
  {
    method = 'GET',
    headers = {},
    body = '',
  }: { method?: string; headers?: Record<string, string>; body?: string } = {},
): Promise<Raw> {
  const send = address.startsWith('https') ? httpsRequest : httpRequest;
  return new Promise((resolve, reject) => {
    const sending = send(address, { method, headers, ...(send === httpsRequest ? { rejectUnauthorized: false } : {}) });
    sending.on('error', reject);
    sending.on('response', (response) => {
      let text = '';
      response.on('data', (piece) => (text += piece));
      response.on('end', () => resolve({ status: response.statusCode!, headers: response.headers, text }));
    });
    sending.end(body);
  });
}

describe('who may ask for what', function () {
  this.timeout(60_000);
  let dusting: Dusting;
  let shot: [string, Uint8Array | string][];

  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
    shot = filesOf(await smallShot('MINE-1'));
  });
  after(() => dusting.destroy());

  const OUTSIDE = `dusting-escape-${process.pid}`;
  const names: [string, string][] = [
    ['a line break', `x\n/../../../${OUTSIDE}`],
    ['a line separator of Unicode', `x\u2028/../../../${OUTSIDE}`],
    ['a carriage return', `a\r/../../${OUTSIDE}`],
    ['steps up', `../../${OUTSIDE}`],
    ['steps up in its middle', `a/../../../${OUTSIDE}`],
    ['a root', `/tmp/${OUTSIDE}`],
    ['backslashes', `..\\..\\${OUTSIDE}`],
    ['a drive', `C:${OUTSIDE}`],
    ['a device of Windows', 'textures/NUL.png'],
    ['turned text', `a\u202egnp.exe`],
    ['more bytes than any system keeps', `${'ä'.repeat(200)}.png`],
    ['what every object has', '__proto__'],
  ];
  for (const [what, name] of names)
    it(`refuses a file whose name holds ${what}, in forms and in archives, and writes nothing`, async () => {
      // busboy decodes names as Latin-1 unless told, so the form says it in its own way.
      const boundary = 'xxboundaryxx';
      const quoted = name.replaceAll('"', '%22');
      const head = `--${boundary}\r\nContent-Disposition: form-data; name="files"; filename*=UTF-8''${encodeURIComponent(quoted)}\r\n\r\nevil\r\n--${boundary}--\r\n`;
      const form = await raw(`${dusting.address}/api/shots`, {
        method: 'POST',
        headers: {
          'Content-Type': `multipart/form-data; boundary=${boundary}`,
          'Content-Length': String(Buffer.byteLength(head)),
        },
        body: head,
      });
      expect(form.status, form.text).to.equal(400);
      const archive = await zipWith(name);
      const zipped = await dusting.send([['shot.zip', archive]]);
      expect(zipped.status, JSON.stringify(zipped.body)).to.equal(400);
      for (const folder of [dusting.folder, dirname(dusting.folder), '/tmp', '/', process.cwd()])
        expect(
          (await readdir(folder)).filter((entry) => entry.includes(OUTSIDE)),
          folder,
        ).to.deep.equal([]);
      expect(await readdir(join(dusting.folder, 'uploads'))).to.deep.equal([]);
    });

  it('refuses documents and packages with such paths, and ids that every object has', async () => {
    for (const file of ['x\n/../../etc/passwd', 'con/a.png', 'constructor', '..', 'a//b']) {
      const { document, files } = await smallShot('BAD-2');
      document.textures.t = { file, colourSpace: 'srgb' };
      const { status, body } = await dusting.send(filesOf({ document, files }));
      expect(status, file).to.equal(400);
      expect(body.problems.map(({ path }) => path)).to.include('/textures/t/file');
    }
    for (const id of ['constructor', 'toString', 'hasOwnProperty']) {
      const { document, files } = await smallShot('BAD-3');
      document.objects[id] = structuredClone(document.objects.wall);
      const { status, body } = await dusting.send(filesOf({ document, files }));
      expect(status, id).to.equal(400);
      expect(body.error).to.include(id);
    }
    const { document, files } = await smallShot('constructor');
    expect((await dusting.send(filesOf({ document, files }))).status).to.equal(400);
  });

  it('answers under its own names alone', async () => {
    const { port } = new URL(dusting.address);
    const status = async (Host: string) => (await raw(`${dusting.address}/api/shots`, { headers: { Host } })).status;
    expect(await status(`evil.example:${port}`), 'a foreign name pointed here').to.equal(421);
    expect(await status('127.0.0.1.evil.example')).to.equal(421);
    expect(await status(`localhost:${port}`)).to.equal(200);
    expect(await status(`[::1]:${port}`)).to.equal(200);
    expect((await raw(`${dusting.address}/`, { headers: { Host: 'evil.example' } })).status, 'the page, too').to.equal(
      421,
    );
  });

  it('does nothing that another site’s page asks, and shows it nothing', async () => {
    await dusting.send(shot);
    const ask = (path: string, method: string, headers: Record<string, string>, body = '') =>
      raw(`${dusting.address}/api${path}`, { method, headers, body });
    const json = { 'Content-Type': 'application/json' };
    const evil = { Origin: 'https://evil.example' };
    const order = JSON.stringify({ sheet: 'preview', region: null });
    const before = (await dusting.shot('MINE-1')).renders.length;
    expect((await ask('/shots/MINE-1/renders', 'POST', { ...json, ...evil }, order)).status).to.equal(403);
    expect(
      (await ask('/shots/MINE-1/renders', 'POST', { ...json, 'Sec-Fetch-Site': 'cross-site' }, order)).status,
    ).to.equal(403);
    // Another port of the same machine is the same site, and not us.
    expect(
      (await ask('/shots/MINE-1/renders', 'POST', { ...json, 'Sec-Fetch-Site': 'same-site' }, order)).status,
    ).to.equal(403);
    expect(
      (await ask('/shots/MINE-1/renders', 'POST', { 'Content-Type': 'text/plain', ...evil }, order)).status,
    ).to.equal(403);
    expect((await ask('/renders/1/stop', 'POST', evil)).status, 'without a body').to.equal(403);
    expect((await ask('/renders/1/stop', 'POST', { Origin: 'null' })).status, 'from a sandbox').to.equal(403);
    expect((await ask('/shots', 'GET', { 'Sec-Fetch-Site': 'cross-site', 'Sec-Fetch-Mode': 'cors' })).status).to.equal(
      403,
    );
    expect((await dusting.shot('MINE-1')).renders.length).to.equal(before);
    // Our own page, a script, and a link that somebody followed.
    expect(
      (
        await ask(
          '/shots/MINE-1/renders',
          'POST',
          { ...json, Origin: dusting.address, 'Sec-Fetch-Site': 'same-origin' },
          order,
        )
      ).status,
    ).to.equal(201);
    expect((await ask('/shots/MINE-1/renders', 'POST', json, order)).status).to.equal(201);
    expect(
      (await ask('/shots', 'GET', { 'Sec-Fetch-Site': 'cross-site', 'Sec-Fetch-Mode': 'navigate' })).status,
    ).to.equal(200);
  });

  it('takes JSON only as JSON, and no NUL', async () => {
    const order = JSON.stringify({ sheet: 'preview', region: null });
    const as = (type: string) =>
      raw(`${dusting.address}/api/shots/MINE-1/renders`, {
        method: 'POST',
        headers: { 'Content-Type': type },
        body: order,
      });
    expect((await as('application/x-www-form-urlencoded')).status).to.equal(415);
    expect((await as('text/html')).status).to.equal(415);
    expect((await as('text/plain')).status, 'text is taken where text is wanted').to.equal(400);
    expect((await raw(`${dusting.address}/api/shots/MINE%001`)).status).to.equal(400);
    expect(
      (await dusting.post('/shots/MINE-1/looks', { name: 'a\0b', note: '', query: {}, pins: [] })).status,
    ).to.equal(400);
  });

  it('lets the page load from itself alone', async () => {
    const { headers } = await raw(`${dusting.address}/`);
    const policy = String(headers['content-security-policy']);
    expect(policy).to.include("default-src 'self'");
    expect(policy).to.not.match(/https?:|\*/);
    expect(headers['x-content-type-options']).to.equal('nosniff');
    expect(headers['cross-origin-resource-policy']).to.equal('same-origin');
  });

  it('says nothing of where things stand on the server', async () => {
    const answers = await Promise.all([
      dusting.get('/shots'),
      dusting.get('/shots/NOPE'),
      dusting.send([['shot.zip', 'no archive']]),
      dusting.send([['a.gltf', '{}']]),
      dusting.post('/shots/MINE-1/dry-run'),
      dusting.get(`/files/${'0'.repeat(64)}`),
    ]);
    for (const { body } of answers)
      expect(JSON.stringify(body)).to.not.include(dusting.folder).and.not.include(process.cwd());
  });
});

/** The proxy's settings as the guide gives them. */
async function configOfGuide(): Promise<string> {
  const guide = await readFile(join(import.meta.dirname, '../../docs/security.md'), 'utf8');
  return /```haproxy\n([\s\S]*?)```/.exec(guide)![1];
}

function zipWith(name: string): Promise<Buffer> {
  // yazl refuses such names: one of the same length is written and replaced.
  const bytes = Buffer.from(name);
  const placeholder = 'p'.repeat(bytes.length);
  const archive = new yazl.ZipFile();
  archive.addBuffer(Buffer.from('evil'), placeholder);
  archive.end();
  return new Promise((resolve) => {
    const chunks: Buffer[] = [];
    archive.outputStream.on('data', (chunk: Buffer) => chunks.push(chunk));
    archive.outputStream.on('end', () => {
      const whole = Buffer.concat(chunks);
      for (let at = whole.indexOf(placeholder); at >= 0; at = whole.indexOf(placeholder, at + 1)) bytes.copy(whole, at);
      resolve(whole);
    });
  });
}

describe('signing in', function () {
  this.timeout(90_000);
  const token = 'a-secret-of-the-honey-house';
  let dusting: Dusting;
  let proxy: ChildProcess | null = null;
  let folder: string;

  before(async () => {
    folder = await mkdtemp(join(tmpdir(), 'dusting-proxy-'));
    dusting = await Dusting.create({ DUSTING_TOKEN: token, DUSTING_HOSTS: 'dusting.test' });
    await dusting.server();
  });
  after(async () => {
    proxy?.kill('SIGTERM');
    await dusting.destroy();
    await rm(folder, { recursive: true, force: true });
  });

  const signIn = (given: string, address = dusting.address, headers: Record<string, string> = {}) => {
    const body = JSON.stringify({ token: given });
    return raw(`${address}/api/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', ...headers },
      body,
    });
  };
  const shots = (headers: Record<string, string>) => raw(`${dusting.address}/api/shots`, { headers });
  const cookieOf = ({ headers }: Raw) => String(headers['set-cookie']).split(';')[0];

  it('asks everybody, but for health and the page that asks', async () => {
    expect((await shots({})).status).to.equal(401);
    expect((await raw(`${dusting.address}/api/events`)).status).to.equal(401);
    expect((await shots({ Cookie: `dusting_session=${'0'.repeat(64)}` })).status).to.equal(401);
    expect((await raw(`${dusting.address}/api/health`)).status).to.equal(200);
    expect((await raw(`${dusting.address}/sign-in`)).status).to.equal(200);
    expect(JSON.parse((await raw(`${dusting.address}/api/session`)).text)).to.deep.equal({
      needed: true,
      signedIn: false,
    });
  });

  it('lets in by the token: a page by a cookie that scripts cannot read, a script by a header', async () => {
    expect((await signIn('a-secret-of-another-house')).status).to.equal(401);
    const answer = await signIn(token);
    expect(answer.status).to.equal(204);
    expect(String(answer.headers['set-cookie']))
      .to.match(/HttpOnly/)
      .and.match(/SameSite=Strict/)
      .and.not.match(/Secure/);
    const Cookie = cookieOf(answer);
    expect((await shots({ Cookie })).status).to.equal(200);
    expect((await shots({ Authorization: `Bearer ${token}` })).status).to.equal(200);
    const out = await raw(`${dusting.address}/api/session`, { method: 'DELETE', headers: { Cookie } });
    expect(out.status).to.equal(204);
    expect((await shots({ Cookie })).status, 'after signing out').to.equal(401);
  });

  it('works behind a proxy that speaks TLS, and marks the cookie for it', async () => {
    const port = await freePort();
    execFileSync('openssl', ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '1', '-subj', '/CN=dusting.test', '-keyout', join(folder, 'key.pem'), '-out', join(folder, 'cert.pem')], { stdio: 'ignore' }); // prettier-ignore
    await writeFile(join(folder, 'both.pem'), (await readFile(join(folder, 'cert.pem'), 'utf8')) + (await readFile(join(folder, 'key.pem'), 'utf8'))); // prettier-ignore
    // What docs/security.md says to write.
    const config = await configOfGuide();
    await writeFile(
      join(folder, 'haproxy.cfg'),
      config
        .replace(':443', `127.0.0.1:${port}`)
        .replace('/etc/haproxy/dusting.pem', join(folder, 'both.pem'))
        .replace('127.0.0.1:4600', new URL(dusting.address).host),
    );
    proxy = spawn('/usr/sbin/haproxy', ['-db', '-f', join(folder, 'haproxy.cfg')], { stdio: 'ignore' });
    const address = `https://127.0.0.1:${port}`;
    const own = {
      Host: `dusting.test:${port}`,
      Origin: `https://dusting.test:${port}`,
      'Sec-Fetch-Site': 'same-origin',
    };
    await until(
      'the proxy answers',
      async () => (await raw(`${address}/api/health`, { headers: own }).catch(() => null))?.status === 200,
      20,
    );
    const answer = await signIn(token, address, own);
    expect(answer.status).to.equal(204);
    expect(String(answer.headers['set-cookie'])).to.match(/Secure/);
    const Cookie = cookieOf(answer);
    expect((await raw(`${address}/api/shots`, { headers: { ...own, Cookie } })).status).to.equal(200);
    const evil = { ...own, Origin: 'https://evil.example', Cookie, 'Content-Type': 'application/json' };
    expect((await raw(`${address}/api/renders/1/stop`, { method: 'POST', headers: evil })).status).to.equal(403);
    const other = { ...own, Host: 'elsewhere.test', Cookie };
    expect((await raw(`${address}/api/shots`, { headers: other })).status).to.equal(421);
  });

  it('hears out ten wrong tokens and no more, by the page or by a header, and signs in nobody meanwhile', async () => {
    const statuses: number[] = [];
    for (let i = 0; i < 6; i++) statuses.push((await signIn(`wrong-token-number-${i}`)).status);
    for (let i = 0; i < 6; i++) statuses.push((await shots({ Authorization: `Bearer wrong-token-${i}` })).status);
    expect(statuses.filter((status) => status === 429).length, statuses.join()).to.be.greaterThan(0);
    expect((await signIn(token)).status).to.equal(429);
    // Who knows it by header goes on: a farm must not be locked out by a stranger.
    expect((await shots({ Authorization: `Bearer ${token}` })).status).to.equal(200);
  });

  it('ends all sessions when the token changes', async () => {
    const other = await Dusting.create({ DUSTING_TOKEN: token });
    const first = await other.server();
    const Cookie = cookieOf(await signIn(token, other.address));
    expect((await raw(`${other.address}/api/shots`, { headers: { Cookie } })).status).to.equal(200);
    await other.kill(first);
    await writeFile(join(folder, 'token'), 'another-secret-of-the-house\n');
    await other.server({ DUSTING_TOKEN: '', DUSTING_TOKEN_FILE: join(folder, 'token') });
    expect((await signIn('another-secret-of-the-house', other.address)).status, 'the token of a file').to.equal(204);
    expect((await raw(`${other.address}/api/shots`, { headers: { Cookie } })).status).to.equal(401);
    await other.destroy();
  });

  it('is not begun where others can reach it without a token, or with one that is guessed', async () => {
    for (const settings of [{}, { DUSTING_TOKEN: 'short' }] as Record<string, string>[]) {
      const open = await Dusting.create({ DUSTING_HOST: '0.0.0.0', ...settings });
      const said = await open.refusal();
      expect(said)
        .to.match(/DUSTING_TOKEN/)
        .and.match(/16 characters/);
      await open.destroy();
    }
  });
});
