/**
 * Made-up requests to every route, drawn from its own schema and bent: none may be answered by a failure of the server,
 * each refusal is a sentence, and nothing is written outside the data folder. The seed is printed with what fails.
 */
import { expect } from 'chai';
import fc, { type Arbitrary } from 'fast-check';
import type { TSchema } from '@sinclair/typebox';
import { readdir } from 'node:fs/promises';
import { request } from 'node:http';
import * as requests from '../../core/contracts/requests.ts';
import { Dusting } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

const isWhole = process.env.DUSTING_VERIFY === 'full';
const RUNS = isWhole ? 100_000 : 800;

/** What fits a schema, more or less. */
function fitting(schema: TSchema): Arbitrary<unknown> {
  if (schema.anyOf) return fc.oneof(...(schema.anyOf as TSchema[]).map(fitting));
  if (schema.const !== undefined) return fc.constant(schema.const);
  if (schema.enum) return fc.constantFrom(...(schema.enum as unknown[]));
  switch (schema.type) {
    case 'object': {
      const properties = Object.entries((schema.properties ?? {}) as Record<string, TSchema>);
      const own = fc.record(Object.fromEntries(properties.map(([key, value]) => [key, fitting(value)])), {
        requiredKeys: (schema.required ?? []) as never[],
      });
      const [pattern] = Object.entries((schema.patternProperties ?? {}) as Record<string, TSchema>);
      return pattern ? fc.dictionary(pointer, fitting(pattern[1]), { maxKeys: 4 }) : own;
    }
    case 'array':
      return fc.array(fitting(schema.items as TSchema), { maxLength: 4 });
    case 'string':
      return fc.oneof(pointer, word, fc.string({ maxLength: 40 }), fc.string({ unit: 'binary', maxLength: 40 }));
    case 'integer':
      return fc.oneof(fc.integer({ min: -2, max: 40 }), fc.integer(), fc.maxSafeInteger());
    case 'number':
      return fc.oneof(fc.integer({ min: -2, max: 40 }), fc.double());
    case 'boolean':
      return fc.boolean();
    case 'null':
      return fc.constant(null);
    default:
      return fc.jsonValue();
  }
}

const word = fc.constantFrom(
  'preview',
  'final',
  'FUZZ-1',
  'FUZZ-2',
  'constructor',
  '__proto__',
  'toString',
  'wall',
  'beauty',
  'a\0b',
  '../..',
  '%00',
  'ä\u2028',
  '',
);
const pointer = fc.constantFrom('/samples', '/limits/transmission', '/width', '/lights/window/intensity', '/lights/new', '/objects/wall/mesh', '/materials/glass', '/__proto__/a', '/constructor', '/a/b/c/d/e/f', 'samples'); // prettier-ignore
const number = fc.oneof(
  fc.integer({ min: 0, max: 6 }),
  fc.constantFrom(-1, 1.5, 2 ** 31, 2 ** 53, '0x1', 'NaN', '1e3', 'constructor'),
);

/** A body that fits, or one that was bent: another value somewhere in it, or something else altogether. */
const bent = (schema: TSchema): Arbitrary<unknown> =>
  fc.oneof(
    { weight: 6, arbitrary: fitting(schema) },
    {
      weight: 3,
      arbitrary: fc.tuple(fitting(schema), fc.jsonValue(), fc.nat(20)).map(([body, value, at]) => {
        if (typeof body !== 'object' || body === null) return value;
        const keys = Object.keys(body);
        return keys.length ? { ...body, [keys[at % keys.length]]: value } : { [String(at)]: value };
      }),
    },
    { weight: 1, arbitrary: fc.jsonValue() },
  );

interface Made {
  method: string;
  path: string;
  headers: Record<string, string>;
  body: string | Buffer;
}

const json = { 'Content-Type': 'application/json' };
const stream = { 'Content-Type': 'application/octet-stream' };
const part = fc
  .oneof(word, number, fc.string({ unit: 'binary', maxLength: 12 }))
  .map((value) => encodeURIComponent(wellFormed(String(value))));
const wellFormed = (text: string) => Buffer.from(text).toString('utf8');

/** Every route: `:code` and `:id` are drawn; a schema, or what else a body may be. */
const ROUTES: [string, string, (TSchema | 'bytes' | 'form' | 'text')?][] = [
  ['GET', '/health'], ['GET', '/session'], ['POST', '/session', requests.SignInRequest], ['DELETE', '/session'],
  ['GET', '/shots'], ['GET', '/images'], ['GET', '/work'], ['PUT', '/shots/:code/first'], ['GET', '/disk'], ['GET', '/profiles'], ['POST', '/shots', 'form'],
  ['GET', '/shots/:code'], ['GET', '/shots/:code/intake'], ['GET', '/shots/:code/preflight.:id'], ['GET', '/shots/:code/logs'],
  ['GET', '/shots/:code/pictures'], ['GET', '/shots/:code/storage'], ['DELETE', '/shots/:code?confirm=:id'],
  ['PUT', '/shots/:code/archived', requests.ArchiveRequest], ['POST', '/shots/:code/dials', requests.DialRequest],
  ['POST', '/shots/:code/undo', requests.StepRequest], ['POST', '/shots/:code/redo', requests.StepRequest],
  ['POST', '/shots/:code/renders', requests.RenderRequest], ['POST', '/shots/:code/trials', requests.TrialRequest],
  ['POST', '/shots/:code/sweeps', requests.SweepRequest], ['POST', '/shots/:code/frame-times', requests.FrameTimesRequest],
  ['PUT', '/shots/:code/farm', requests.FarmRequest], ['POST', '/shots/:code/log-decisions', requests.LogDecisionRequest],
  ['POST', '/shots/:code/profiles', requests.ProfileChoice], ['POST', '/shots/:code/repairs', requests.RepairRequest],
  ['POST', '/shots/:code/looks', requests.LookRequest], ['PUT', '/shots/:code/balance', requests.BalanceRequest],
  ['POST', '/shots/:code/files?base=:id', 'form'], ['POST', '/shots/:code/logs?name=:id', 'text'],
  ['POST', '/shots/:code/pictures?name=:id.png', 'bytes'], ['POST', '/pictures?name=:id.exr', 'bytes'], ['POST', '/pictures?name=:id', 'bytes'],
  ['PUT', '/profiles/:id', requests.ProfileRequest], ['DELETE', '/profiles/:id/:id'],
  ['POST', '/logs/:id/format', requests.LogFormatRequest], ['POST', '/logs/:id/statistics?name=:id', 'text'], ['DELETE', '/logs/:id'],
  ['GET', '/versions/:id/manifest'], ['DELETE', '/versions/:id'], ['GET', '/files/:id'],
  ['GET', '/renders/:id/picture?passes=:id'], ['GET', '/renders/:id/mask?object=:id'], ['GET', '/renders/:id/document'],
  ['GET', '/renders/:id/figures'], ['GET', '/renders/:id/exr'], ['GET', '/renders/:id/pixel?x=:id&y=:id'],
  ['GET', '/renders/:id/area?x=:id&y=:id&radius=:id'], ['POST', '/renders/:id/stop'], ['DELETE', '/renders/:id'],
  ['POST', '/renders/:id/continue', requests.ContinueRequest], ['POST', '/sweeps/:id/stop'], ['GET', '/findings/:id/mask'],
  ['POST', '/findings/:id/aside', requests.AsideRequest], ['POST', '/findings/:id/take-up'], ['POST', '/trials/:id/stop'],
  ['POST', '/trials/:id/keep', requests.KeepRequest], ['POST', '/trials/:id/drop'], ['GET', '/pictures/:id/file'],
  ['PUT', '/picture-sets/:id', requests.ReadingRequest], ['DELETE', '/picture-sets/:id'], ['DELETE', '/looks/:id'],
  ['GET', '/:id/:id'], ['PATCH', '/shots/:code'],
]; // prettier-ignore

const text = fc.oneof(
  fc.string({ maxLength: 300 }),
  fc.string({ unit: 'binary', maxLength: 100 }),
  fc.json({ maxDepth: 2 }),
);
const bytes = fc.uint8Array({ maxLength: 200 }).map((array) => Buffer.from(array));
const form = fc
  .array(
    fc.tuple(
      fc.oneof(word, fc.constantFrom('shot.json', 'a.gltf', 'a.obj', 'a.usda', 'a.glb', 'shot.zip', 'a', 'a/b')),
      text,
    ),
    { minLength: 1, maxLength: 3 },
  )
  .map((files) =>
    Buffer.from(
      `${files.map(([name, content]) => `--x\r\nContent-Disposition: form-data; name="files"; filename="${name.replaceAll(/["\r\n]/g, '')}"\r\n\r\n${content}\r\n`).join('')}--x--\r\n`,
    ),
  );

function requestOf([method, template, body]: (typeof ROUTES)[number]): Arbitrary<Made> {
  const slots = template.match(/:(code|id)/g) ?? [];
  const values = fc.tuple(
    ...slots.map((slot) =>
      slot === ':code'
        ? fc.oneof({ weight: 3, arbitrary: fc.constant('FUZZ-1') }, part)
        : fc.oneof({ weight: 2, arbitrary: number.map(String) }, part),
    ),
  );
  const content: Arbitrary<Pick<Made, 'headers' | 'body'>> =
    body === undefined
      ? fc.constant({ headers: {}, body: '' })
      : body === 'bytes'
        ? bytes.map((made) => ({ headers: stream, body: made }))
        : body === 'text'
          ? text.map((made) => ({ headers: { 'Content-Type': 'text/plain' }, body: Buffer.from(made) }))
          : body === 'form'
            ? form.map((made) => ({ headers: { 'Content-Type': 'multipart/form-data; boundary=x' }, body: made }))
            : fc.oneof(
                {
                  weight: 9,
                  arbitrary: bent(body).map((made) => ({ headers: json, body: JSON.stringify(made) ?? 'null' })),
                },
                { weight: 1, arbitrary: text.map((made) => ({ headers: json, body: Buffer.from(made) })) },
              );
  return fc.tuple(values, content).map(([drawn, { headers, body: made }]) => {
    let at = 0;
    return { method, path: template.replaceAll(/:(code|id)/g, () => drawn[at++] as string), headers, body: made };
  });
}

describe('made-up requests', function () {
  this.timeout(isWhole ? 7200_000 : 300_000);
  let dusting: Dusting;

  before(async () => {
    dusting = await Dusting.create({ DUSTING_LOG_LEVEL: 'fatal', DUSTING_REQUEST_LIMIT: '1000000' });
    await dusting.server();
    await begin();
  });
  after(() => dusting.destroy());

  const begin = async () => void (await dusting.send(filesOf(await smallShot('FUZZ-1'))));

  function ask({ method, path, headers, body }: Made): Promise<{ status: number; text: string }> {
    return new Promise((resolve, reject) => {
      const length = Buffer.byteLength(body);
      const sending = request(`${dusting.address}/api${path}`, { method, headers: { ...headers, ...(length ? { 'Content-Length': length } : {}) } }); // prettier-ignore
      sending.on('error', reject);
      sending.on('response', (response) => {
        let all = '';
        response.on('data', (piece) => (all += piece));
        response.on('end', () => resolve({ status: response.statusCode!, text: all }));
      });
      sending.end(body);
    });
  }

  it(`get an answer each, ${RUNS} of them, and no failure`, async () => {
    const look = () => Promise.all([dusting.home, process.cwd(), '/'].map((folder) => readdir(folder)));
    const outside = await look();
    const seen = new Map<number, number>();
    let count = 0;
    await fc.assert(
      fc.asyncProperty(fc.oneof(...ROUTES.map(requestOf)), async (made) => {
        // A deleted shot would leave nothing to ask about, and a thousand renders much to tell.
        if (count++ % 400 === 399) await dusting.post('/shots/FUZZ-1?confirm=FUZZ-1', '', 'DELETE').then(begin);
        const { status, text: answer } = await ask(made);
        seen.set(status, (seen.get(status) ?? 0) + 1);
        expect(
          status,
          `${made.method} ${made.path} ${String(made.body).slice(0, 300)}: ${answer.slice(0, 300)}`,
        ).to.be.below(500);
        if (status >= 400 && made.method !== 'HEAD')
          expect((JSON.parse(answer) as { error: string }).error)
            .to.be.a('string')
            .and.not.equal('');
        expect(answer).to.not.include(dusting.folder);
      }),
      { numRuns: RUNS, endOnFailure: false },
    );
    console.log(
      `      (${[...seen]
        .sort()
        .map(([status, n]) => `${status}: ${n}`)
        .join(', ')})`,
    );
    expect(seen.get(200), 'some of them fit').to.be.above(RUNS / 20);
    expect(await look(), 'nothing new stands outside').to.deep.equal(outside);
    expect((await dusting.get('/health')).status).to.equal(200);
  });
});
