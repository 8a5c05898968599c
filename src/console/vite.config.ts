import { join } from 'node:path';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

/**
 * Two builds: the console, and with `--mode draw` the page that moments are drawn in. That page is served from
 * another origin, so the two share no file.
 */
const here = import.meta.dirname;

export default defineConfig(({ mode }) => ({
  root: here,
  base: mode === 'draw' ? '/draw/' : '/',
  // Scripts find one another wherever they lie: a published site lies below any path.
  experimental: {
    renderBuiltUrl: (_name, { hostType }) => (hostType === 'html' || mode === 'draw' ? undefined : { relative: true }),
  },
  plugins: mode === 'draw' ? [] : [react(), tailwindcss()],
  build: {
    outDir: join(here, '../../dist/console'),
    emptyOutDir: mode !== 'draw',
    modulePreload: { polyfill: false },
    // A published site takes over what its pages are made of, and no more.
    manifest: mode !== 'draw' && 'manifest.json',
    rollupOptions: {
      input: join(here, mode === 'draw' ? 'draw.html' : 'index.html'),
      ...(mode === 'draw' ? { output: { entryFileNames: 'scripts/draw-[hash].js' } } : {}),
    },
  },
}));
