/** Bundles TypeScript for Node with esbuild: sources and packages into shared chunks. */
import { root } from './machine.mjs';

/** Packages that begin threads or read WebAssembly from files of their own, or that ask for parts that may not be there. */
const LEFT_OUT = ['draco3dgltf', 'piscina', 'pino', 'pino-http', 'pg-native'];

/** What packages written for `require` expect of the module they are in. */
const COMMON_JS = `import { createRequire as dustingRequire } from 'node:module';
const require = dustingRequire(import.meta.url);
const __filename = import.meta.filename;
const __dirname = import.meta.dirname;`;

/**
 * Packages are bundled too: reading some 700 small files of them took a process of ours a second of its time, and it
 * begins a lot of them. Names are kept, so that a stack can be read without the map, which costs 0.2 s to read.
 *
 * @param {Record<string, string>} entryPoints by name, below the project. @param {string} outdir
 */
export async function bundle(entryPoints, outdir) {
  // Only now: it is a package, and those are installed before anything is built.
  const { build } = await import('esbuild');
  await build({
    absWorkingDir: root,
    entryPoints,
    outdir,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    external: LEFT_OUT,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    sourcesContent: false,
    banner: { js: COMMON_JS },
    logLevel: 'warning',
  });
}
