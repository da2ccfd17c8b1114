import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { alias: { '@zest-jaw/core': new URL('../core/src/index.ts', import.meta.url).pathname } },
  worker: { format: 'es' },
  server: { proxy: { '/api': 'http://127.0.0.1:4178' } },
  // The budget is 250 kB of script, gzip, at first load; see docs/benchmarks.md.
  build: {
    target: 'es2023',
    sourcemap: true,
    chunkSizeWarningLimit: 800,
    rolldownOptions: {
      // A scene and all it needs at once is one file, whatever other pages share of it: small files compress badly.
      output: { codeSplitting: { groups: [{ name: 'scene', test: /src\/key\/KeyStep|src\/scene\/ScenePage/ }] } },
    },
  },
});
