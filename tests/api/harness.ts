/** A whole Dusting for a test: its own database, data folder, and the built server's processes. */
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import pg from 'pg';
import type { ErrorBody, RenderSummary, ShotState } from '../../core/contracts/events.ts';
import type { Finding } from '../../core/contracts/finding.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { unpackPicture } from '../../core/picture/planes.ts';

const ROOT = join(import.meta.dirname, '../..');
const ADMIN_URL = process.env.DUSTING_TEST_DATABASE_URL;

export interface Answer<T> {
  status: number;
  body: T;
}

export type WholeShot = ShotState & { document: ShotDocument };

export class Dusting {
  address = '';
  private processes: ChildProcess[] = [];
  private readonly documents = new Map<number, ShotDocument>();
  private constructor(
    private readonly database: string,
    /** Where its data folder stands, and nothing else. */
    readonly home: string,
    private readonly settings: Record<string, string>,
  ) {}

  /** @param settings DUSTING_… variables of this one */
  static async create(settings: Record<string, string> = {}): Promise<Dusting> {
    if (!ADMIN_URL) throw new Error('DUSTING_TEST_DATABASE_URL is not set: run these through `npm test`');
    const database = `test_${process.pid}_${Date.now()}_${Math.floor(Math.random() * 1e6)}`;
    await admin(`create database ${database}`);
    const home = await mkdtemp(join(tmpdir(), 'dusting-data-'));
    await mkdir(join(home, 'data'));
    return new Dusting(database, home, settings);
  }

  get folder(): string {
    return join(this.home, 'data');
  }

  get databaseUrl(): string {
    const url = new URL(ADMIN_URL!);
    url.pathname = `/${this.database}`;
    return url.href;
  }

  private start(file: string, more: Record<string, string> = {}): ChildProcess {
    const child = spawn(process.execPath, [join(ROOT, 'dist/server', file)], {
      cwd: ROOT,
      env: {
        ...process.env,
        DUSTING_DATABASE_URL: this.databaseUrl,
        DUSTING_DATA: this.folder,
        DUSTING_LOG_LEVEL: 'error',
        ...this.settings,
        ...more,
      },
      stdio: ['ignore', 'inherit', 'inherit'],
    });
    this.processes.push(child);
    return child;
  }

  /** @param more DUSTING_… variables of this start */
  async server(more: Record<string, string> = {}): Promise<ChildProcess> {
    const port = await freePort();
    this.address = `http://127.0.0.1:${port}`;
    const child = this.start('main.mjs', { DUSTING_PORT: String(port), ...more });
    await until(
      'the server answers',
      async () => (await fetch(`${this.address}/api/health`).catch(() => null))?.ok,
      30,
    );
    return child;
  }

  worker(threads = 1, more: Record<string, string> = {}): ChildProcess {
    return this.start('worker.mjs', { DUSTING_THREADS: String(threads), ...more });
  }

  /** What a server that is not to start says of it. */
  async refusal(): Promise<string> {
    const env = { ...process.env, DUSTING_DATABASE_URL: this.databaseUrl, DUSTING_DATA: this.folder, ...this.settings };
    const child = spawn(process.execPath, [join(ROOT, 'dist/server/main.mjs')], { cwd: ROOT, env });
    let out = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (piece) => (out += piece));
    const code = await new Promise((resolve) => child.once('close', resolve));
    if (code === 0) throw new Error('it was begun');
    return out;
  }

  async kill(child: ChildProcess, signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    this.processes = this.processes.filter((p) => p !== child);
    if (child.exitCode !== null || child.signalCode !== null) return;
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await ended;
  }

  /** Ends every process; what is stored stays. */
  async stop(): Promise<void> {
    await Promise.all([...this.processes].map((child) => this.kill(child)));
  }

  async destroy(): Promise<void> {
    await this.stop();
    await admin(`drop database if exists ${this.database} with (force)`);
    await rm(this.home, { recursive: true, force: true });
  }

  async get<T = any>(path: string): Promise<Answer<T>> {
    const response = await fetch(`${this.address}/api${path}`);
    return { status: response.status, body: (await response.json()) as T };
  }

  async post<T = any>(path: string, body: unknown = {}, method = 'POST'): Promise<Answer<T & ErrorBody>> {
    const response = await fetch(`${this.address}/api${path}`, {
      method,
      headers: { 'Content-Type': 'application/json' },
      body: body === '' ? undefined : typeof body === 'string' ? body : JSON.stringify(body),
    });
    const text = await response.text();
    return { status: response.status, body: (text ? JSON.parse(text) : null) as T & ErrorBody };
  }

  /** Rows of the database. */
  async query<T extends pg.QueryResultRow>(sql: string): Promise<T[]> {
    const client = new pg.Client({ connectionString: this.databaseUrl });
    await client.connect();
    const { rows } = await client.query<T>(sql);
    await client.end();
    return rows;
  }

  /** Follows an event stream. */
  listen(path: string): { text(): string; close(): void } {
    let all = '';
    const leaving = new AbortController();
    void fetch(`${this.address}/api${path}`, { signal: leaving.signal })
      .then(async ({ body }) => {
        const decoder = new TextDecoder();
        for await (const piece of body!) all += decoder.decode(piece, { stream: true });
      })
      .catch(() => {});
    return { text: () => all, close: () => leaving.abort() };
  }

  /** Sends a shot as a form of files. */
  async send<T = { code: string }>(
    files: Iterable<readonly [string, Uint8Array | string]>,
    path = '/shots',
  ): Promise<Answer<T & ErrorBody>> {
    const form = new FormData();
    for (const [path, bytes] of files) form.append('files', new Blob([bytes as Uint8Array<ArrayBuffer>]), path);
    const response = await fetch(`${this.address}/api${path}`, { method: 'POST', body: form });
    return { status: response.status, body: (await response.json()) as T & ErrorBody };
  }

  /** A shot's state, with the document of its head. */
  async shot(code: string): Promise<WholeShot> {
    const { body } = await this.get<ShotState>(`/shots/${code}`);
    return { ...body, document: await this.document(body.head.id) };
  }

  private async document(versionId: number): Promise<ShotDocument> {
    const known =
      this.documents.get(versionId) ?? (await this.get<ShotDocument>(`/versions/${versionId}/document`)).body;
    this.documents.set(versionId, known);
    return known;
  }

  /** A finding in full. */
  async finding(id: number): Promise<Finding> {
    return (await this.get<Finding>(`/findings/${id}`)).body;
  }

  async render(code: string, id: number): Promise<RenderSummary> {
    return (await this.shot(code)).renders.find((r) => r.id === id)!;
  }

  /** Every channel of a render, as bytes that can be compared. */
  async bits(id: number, passes = 'beauty,cost,cut.any,error.beauty'): Promise<Map<string, Buffer>> {
    const bytes = await (await fetch(`${this.address}/api/renders/${id}/picture?passes=${passes}`)).arrayBuffer();
    const { picture } = unpackPicture(bytes);
    return new Map([...picture.channels].map(([name, plane]) => [name, Buffer.from(plane.slice().buffer)]));
  }

  /** Waits for a render to be in some state. */
  reach(code: string, id: number, state: RenderSummary['state'], seconds = 60): Promise<void> {
    return until(`render ${id} is ${state}`, async () => (await this.render(code, id)).state === state, seconds);
  }
}

export async function until(what: string, holds: () => Promise<unknown>, seconds = 60): Promise<void> {
  const end = Date.now() + seconds * 1000;
  while (!(await holds())) {
    if (Date.now() > end) throw new Error(`after ${seconds} s still not so: ${what}`);
    await sleep(80);
  }
}

async function admin(sql: string): Promise<void> {
  const client = new pg.Client({ connectionString: ADMIN_URL });
  await client.connect();
  await client.query(sql);
  await client.end();
}

export function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });
}
