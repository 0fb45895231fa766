import { defineConfig } from 'vite';

// The script of live pages: one file without imports, which the hand-off writes into them.
export default defineConfig({
  build: {
    outDir: '../src/keen_ripple/handoff/built',
    emptyOutDir: true,
    copyPublicDir: false,
    lib: { entry: 'src/handed/live.ts', formats: ['iife'], name: 'piece', fileName: () => 'live.js' },
  },
});
