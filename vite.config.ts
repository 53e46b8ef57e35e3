import vue from '@vitejs/plugin-vue';
import type { LogLevel, LogOrStringHandler, RolldownLog } from 'rolldown';
import { defineConfig } from 'vite';

/** Shared memory needs both headers in the page, served by whichever server. */
const isolation = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
};

/** Readers of scene files can read from disk as well, which a page never does: Vite leaves that part out, and says so. */
const quiet = {
  checks: { pluginTimings: false },
  onLog(level: LogLevel, log: RolldownLog, handler: LogOrStringHandler) {
    if (!/"node:(path|fs)" has been externalized/.test(log.message)) handler(level, log);
  },
};

export default defineConfig({
  root: 'web',
  plugins: [vue()],
  worker: { format: 'es', rolldownOptions: quiet },
  build: {
    outDir: '../dist/web',
    emptyOutDir: true,
    target: 'es2022',
    chunkSizeWarningLimit: 900,
    // A kernel written into a script could not be fetched under the page's own policy.
    assetsInlineLimit: (file) => (file.endsWith('.wasm') ? false : undefined),
    rolldownOptions: quiet,
  },
  server: { headers: isolation },
});
