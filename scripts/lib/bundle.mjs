/** Bundles TypeScript for Node with esbuild: our own sources into shared chunks, packages left where they are. */
import { root } from './machine.mjs';

/** @param {Record<string, string>} entryPoints by name, below the project. @param {string} outdir */
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
    packages: 'external',
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
  });
}
