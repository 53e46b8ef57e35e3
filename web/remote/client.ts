/** Requests to the server; a refusal becomes an error with the server's own sentence. */
import type { ErrorBody } from '../../core/contracts/events.ts';

export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly body: ErrorBody,
  ) {
    super(body.error);
  }
}

const UNREACHABLE = 'The server is not responding. Nothing was changed; try again once it is back.';
/** Before each further try of a request that got no answer, milliseconds. */
const PAUSES = [300, 700, 1500, 3000];

/** What to do when the server wants people to sign in. */
let signedOut: () => void = () => {};
export const onSignedOut = (go: () => void): void => {
  signedOut = go;
};

/** By this the server knows a request that it is sent again: what it asks is done once. */
export function requestKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

async function request(path: string, init: RequestInit = {}): Promise<Response> {
  const headers = new Headers(init.headers);
  if (init.method && init.method !== 'GET') headers.set('Idempotency-Key', requestKey());
  const response = await untilAnswered(`/api${path}`, { ...init, headers });
  if (response.ok) return response;
  if (response.status === 401) signedOut();
  const body = (await response.json().catch(() => null)) as ErrorBody | null;
  throw new Refused(response.status, body ?? { error: `The server answered ${response.status}.`, problems: [] });
}

/** Asks again while the server, or its database, is away for a moment. */
async function untilAnswered(address: string, init: RequestInit): Promise<Response> {
  for (const pause of [...PAUSES, null]) {
    const response = await fetch(address, init).catch(() => null);
    init.signal?.throwIfAborted();
    if (response && response.status !== 503) return response;
    if (pause === null) {
      if (response) return response;
      throw new Refused(0, { error: UNREACHABLE, problems: [] });
    }
    await new Promise((resolve) => setTimeout(resolve, pause));
  }
  throw new Refused(0, { error: UNREACHABLE, problems: [] });
}

export async function getJson<T>(path: string): Promise<T> {
  return (await (await request(path)).json()) as T;
}

export async function getBytes(path: string, signal?: AbortSignal): Promise<ArrayBuffer> {
  return (await request(path, { signal })).arrayBuffer();
}

/** @returns the answer's body, or undefined when it has none */
export async function post<T = void>(path: string, body: object = {}, method: 'POST' | 'PUT' = 'POST'): Promise<T> {
  const response = await request(path, {
    method,
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  });
  return (response.status === 204 ? undefined : await response.json()) as T;
}

export async function remove(path: string): Promise<void> {
  await request(path, { method: 'DELETE' });
}

/** A file of an upload, with its path below the folder that was chosen. */
export interface UploadFile {
  path: string;
  file: File;
}

/** Something on its way to the server. */
export interface Sending<T> {
  done: Promise<T>;
  cancel(): void;
}

/** Sends files as a form, those of a whole shot by default; `progress` hears the share that is sent, 0–1. */
export function sendFiles<T = { code: string }>(
  files: UploadFile[],
  progress: (share: number) => void,
  path = '/shots',
): Sending<T> {
  const form = new FormData();
  for (const { path: name, file } of files) form.append('files', file, name);
  return send<T>(path, form, progress);
}

/** Sends the bytes of a file as they are; its name, and what else is said of it, stands in the address. */
export const sendText = <T>(
  path: string,
  file: File,
  progress: (share: number) => void = () => {},
  said: Record<string, string> = {},
): Sending<T> => send<T>(`${path}?${new URLSearchParams({ name: file.name, ...said })}`, file, progress);

/** `fetch` cannot tell how much is sent. */
function send<T>(path: string, body: FormData | File, progress: (share: number) => void): Sending<T> {
  const sending = new XMLHttpRequest();
  const done = new Promise<T>((resolve, reject) => {
    const refuse = (error: string) => reject(new Refused(sending.status, { error, problems: [] }));
    sending.upload.onprogress = (event) => progress(event.total ? event.loaded / event.total : 0);
    sending.onload = () => {
      try {
        const answer = JSON.parse(sending.responseText || 'null') as T & ErrorBody;
        if (sending.status < 300) resolve(answer);
        else {
          if (sending.status === 401) signedOut();
          reject(new Refused(sending.status, answer));
        }
      } catch {
        refuse(`The server answered ${sending.status}.`);
      }
    };
    sending.onerror = () => refuse('The upload broke off. Nothing was kept; send it again.');
    sending.onabort = () => refuse('The upload was cancelled. Nothing was kept.');
  });
  sending.open('POST', `/api${path}`);
  sending.setRequestHeader('Idempotency-Key', requestKey());
  if (body instanceof File) sending.setRequestHeader('Content-Type', 'application/octet-stream');
  sending.send(body);
  return { done, cancel: () => sending.abort() };
}
