/** Makes load on a thread of its own: pages that follow a shot, and uploads. */
import { parentPort, workerData } from 'node:worker_threads';

interface Load {
  address: string;
  readers: number;
  uploads: [string, Uint8Array | string][][];
}

const { address, readers, uploads } = workerData as Load;

for (let i = 0; i < readers; i++)
  void fetch(`${address}/api/shots/FULL-1/events`).then(async ({ body }) => {
    // Read and forgotten, as it comes.
    await body!.pipeTo(new WritableStream());
  });
parentPort!.postMessage('begun');

await Promise.all(
  uploads.map(async (files) => {
    const form = new FormData();
    for (const [path, bytes] of files) form.append('files', new Blob([bytes as Uint8Array<ArrayBuffer>]), path);
    await (await fetch(`${address}/api/shots`, { method: 'POST', body: form })).json();
  }),
);
parentPort!.postMessage('done');
