/** What EXR files are read with in the page: the WebAssembly kernel, or its TypeScript twin where the page has no shared memory. */
import unpackUrl from '../../dist/kernels/unpack-exr.wasm?url';
import { kernelMeans, plainMeans, type ExrMeans, type UnpackKernel } from '../../core/formats/exr/unpack-kernel.ts';

let means: Promise<ExrMeans> | null = null;

/** Of this worker alone. */
export const exrMeans = (): Promise<ExrMeans> => (means ??= lent());

async function lent(): Promise<ExrMeans> {
  if (typeof SharedArrayBuffer === 'undefined') return plainMeans;
  const memory = new WebAssembly.Memory({ initial: 64, maximum: 65536, shared: true });
  const { instance } = await WebAssembly.instantiateStreaming(fetch(unpackUrl), { env: { memory } });
  return kernelMeans({ ...instance.exports, memory } as unknown as UnpackKernel);
}
