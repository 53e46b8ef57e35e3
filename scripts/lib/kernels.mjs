/** Compiles the WebAssembly kernels, each from its own assembly.ts, when one is newer than what was built. */
import { existsSync, mkdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { attempt } from './command.mjs';
import { root } from './machine.mjs';
import { CannotGoOn } from './say.mjs';

const KERNELS = ['intersect', 'build-bvh', 'unpack-exr'];

export function buildKernels() {
  for (const name of KERNELS) {
    const source = join(root, 'core/kernels', name, 'assembly.ts');
    const target = join(root, 'dist/kernels', `${name}.wasm`);
    if (existsSync(target) && statSync(target).mtimeMs > statSync(source).mtimeMs) continue;
    mkdirSync(join(root, 'dist/kernels'), { recursive: true });
    const built = attempt('npx', [
      'asc', source, '-o', target, '-O3', '--noAssert', '--runtime', 'stub', '--use', 'abort=',
      '--enable', 'simd,threads', '--importMemory', '--sharedMemory', '--initialMemory', '1',
      '--maximumMemory', '65536', '--noExportMemory',
    ], { cwd: root }); // prettier-ignore
    if (!built.ok) throw new CannotGoOn(`The kernel ${name} could not be compiled:\n${built.out}`);
  }
}
