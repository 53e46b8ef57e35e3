import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';

/** Shared memory needs both headers in the page, served by whichever server. */
const isolation = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
};

export default defineConfig({
  root: 'web',
  plugins: [vue()],
  worker: { format: 'es' },
  build: {
    outDir: '../dist/web',
    emptyOutDir: true,
    target: 'es2022',
    chunkSizeWarningLimit: 900,
    rolldownOptions: { checks: { pluginTimings: false } },
  },
  server: { headers: isolation },
});
