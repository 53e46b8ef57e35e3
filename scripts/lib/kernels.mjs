/** Compiles the WebAssembly kernels, each from its own folder, when something they are made of is newer than what was built. */
import { cpSync, existsSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { attempt } from './command.mjs';
import { root } from './machine.mjs';
import { newest } from './newest.mjs';
import { CannotGoOn } from './say.mjs';

const RENDER = 'core/kernels/render';
/** By kernel: folders and files it is made of. */
const KERNELS = {
  'build-bvh': ['core/kernels/build-bvh'],
  'measure-planes': ['core/kernels/measure-planes'],
  'unpack-exr': ['core/kernels/unpack-exr'],
  render: [RENDER, 'core/data', 'core/geometry', 'core/lights', 'core/materials', 'core/render', 'core/textures', 'scripts/lib/lower.mjs'],
}; // prettier-ignore

export async function buildKernels() {
  for (const [name, sources] of Object.entries(KERNELS)) {
    const target = join(root, 'dist/kernels', `${name}.wasm`);
    if (existsSync(target) && statSync(target).mtimeMs > Math.max(...sources.map((s) => newest(join(root, s)))))
      continue;
    mkdirSync(dirname(target), { recursive: true });
    if (name === 'render') await buildRender(target);
    else assemble(name, join('core/kernels', name, 'assembly.ts'), target, ['--runtime', 'stub']);
  }
}

/** The path tracer is lowered from TypeScript first; how its structures look goes with it, as a section of its own. */
async function buildRender(target) {
  const lowered = join(root, 'dist/lowered');
  rmSync(lowered, { recursive: true, force: true });
  const { modules, structures } = await lowerRender();
  for (const [name, text] of modules) {
    mkdirSync(dirname(join(lowered, name)), { recursive: true });
    writeFileSync(join(lowered, name), text);
  }
  cpSync(join(root, RENDER), join(lowered, RENDER), { recursive: true });
  const at = join('dist/lowered', RENDER);
  assemble('render', join(at, 'assembly.ts'), target, ['--runtime', join(at, 'runtime'), '--disableWarning']);
  writeFileSync(target, Buffer.concat([readFileSync(target), section('structures', JSON.stringify(structures))]));
}

async function lowerRender() {
  // Only now: it needs packages, which are installed before anything is built.
  const { CannotLower, lower } = await import('./lower.mjs');
  const own = (name) => `${RENDER}/${name}.ts`;
  try {
    return lower({
      root,
      roots: [['core/render/path/integrator.ts', 'Integrator']],
      prelude: own('prelude'),
      replaced: { Intersector: own('intersector'), Recorder: own('recorder'), toInt: own('prelude'), unsigned: own('prelude') }, // prettier-ignore
    });
  } catch (error) {
    if (error instanceof CannotLower) throw new CannotGoOn(`The kernel render could not be lowered:\n${error.message}`);
    throw error;
  }
}

function assemble(name, source, target, options) {
  const built = attempt('npx', [
    'asc', source, '-o', target, '-O3', '--noAssert', '--use', 'abort=', ...options,
    '--enable', 'simd,threads', '--importMemory', '--sharedMemory', '--initialMemory', '1',
    '--maximumMemory', '65536', '--noExportMemory',
  ], { cwd: root }); // prettier-ignore
  if (!built.ok) throw new CannotGoOn(`The kernel ${name} could not be compiled:\n${built.out}`);
}

/** A custom section of a WebAssembly module. Source: WebAssembly Core Specification, 5.5.3. */
function section(name, text) {
  const sized = (bytes) => Buffer.concat([leb128(bytes.length), bytes]);
  return Buffer.concat([Buffer.of(0), sized(Buffer.concat([sized(Buffer.from(name)), Buffer.from(text)]))]);
}

function leb128(value) {
  const bytes = [];
  for (let left = value; ; left >>>= 7) {
    bytes.push((left & 127) | (left > 127 ? 128 : 0));
    if (left <= 127) return Buffer.from(bytes);
  }
}
