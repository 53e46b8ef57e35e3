/** How the page asks the server, and what it makes of refusals; keys that do not fire while a person types. */
import { expect } from 'chai';
import { createServer, type Server } from 'node:http';
import { createPinia, setActivePinia } from 'pinia';
import { getBytes, getJson, post, Refused } from '../../web/remote/client.ts';
import { useMessages } from '../../web/stores/messages.ts';

describe('requests of the page', () => {
  let server: Server;
  let answer: { status: number; body: string };
  const asked: { method: string; url: string; body: string }[] = [];
  const realFetch = globalThis.fetch;

  before(async () => {
    server = createServer((request, response) => {
      let body = '';
      request.on('data', (chunk: Buffer) => (body += chunk.toString()));
      request.on('end', () => {
        asked.push({ method: request.method!, url: request.url!, body });
        response.writeHead(answer.status).end(answer.body);
      });
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as { port: number };
    // A page's addresses are relative to where it came from.
    globalThis.fetch = (path, init) => realFetch(`http://127.0.0.1:${port}${String(path)}`, init);
  });
  after(() => {
    globalThis.fetch = realFetch;
    server.close();
  });
  beforeEach(() => {
    asked.length = 0;
    setActivePinia(createPinia());
  });

  it('read JSON and bytes below /api', async () => {
    answer = { status: 200, body: '{"status":"ok"}' };
    expect(await getJson('/health')).to.deep.equal({ status: 'ok' });
    expect((await getBytes('/renders/1/picture')).byteLength).to.equal(15);
    expect(asked.map((a) => `${a.method} ${a.url}`)).to.deep.equal(['GET /api/health', 'GET /api/renders/1/picture']);
  });

  it('send changes as JSON, and take an answer without a body', async () => {
    answer = { status: 204, body: '' };
    expect(await post('/trials/3/keep', { both: true })).to.equal(undefined);
    expect(asked[0]).to.deep.equal({ method: 'POST', url: '/api/trials/3/keep', body: '{"both":true}' });
  });

  it('become refusals with the server’s own sentence, or one of theirs when there is none', async () => {
    answer = { status: 409, body: '{"error":"Trial 3 is rendering: nothing is proven yet.","problems":[]}' };
    const refused = await post('/trials/3/keep', { both: true }).catch((e: unknown) => e);
    expect(refused).to.be.instanceOf(Refused);
    expect((refused as Refused).status).to.equal(409);
    expect((refused as Refused).message).to.equal('Trial 3 is rendering: nothing is proven yet.');
    answer = { status: 502, body: '<html>' };
    expect(((await getJson('/shots').catch((e: unknown) => e)) as Refused).message).to.equal(
      'The server answered 502.',
    );
  });

  it('say when nobody answers, and that nothing was changed', async () => {
    const listening = globalThis.fetch;
    globalThis.fetch = () => Promise.reject(new TypeError('fetch failed'));
    const refused = (await post('/shots/HA-010/undo', { base: 1 }).catch((e: unknown) => e)) as Refused;
    globalThis.fetch = listening;
    expect(refused.status).to.equal(0);
    expect(refused.message).to.match(/is not responding\. Nothing was changed/);
  });

  it('put every place that is wrong into the message', () => {
    const messages = useMessages();
    const problems = [{ path: '/sheets/preview/samples', value: '30', expected: 'a multiple of 4' }];
    messages.refused(new Refused(400, { error: 'request: …', problems }));
    expect(messages.latest!.severity).to.equal('error');
    expect(messages.latest!.text).to.equal('That cannot be done; nothing was changed.');
    expect(messages.latest!.details).to.deep.equal(['/sheets/preview/samples is 30; expected a multiple of 4']);
    messages.refused(new Error('x is not a function'));
    expect(messages.latest!.text).to.match(/page failed: x is not a function/);
    const { id } = messages.latest!;
    messages.done('Trial 1 is kept.');
    expect(messages.latest!.id, 'each is told, also twice the same').to.be.above(id);
  });
});
