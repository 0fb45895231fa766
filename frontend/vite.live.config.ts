import { defineConfig } from 'vite';

// Scripts without imports, which the hand-off writes into files: of live pages, of what plays Lottie files and films, of what sets
// parameters and traits, and of the runtime by itself.
const ENTRIES: Record<string, string> = {
  live: 'src/handed/live.ts',
  element: 'src/handed/element.ts',
  lottie: 'src/handed/lottie.ts',
  film: 'src/handed/film.ts',
  settings: 'src/handed/settings.ts',
  runtime: 'src/runtime/index.ts',
};

export default defineConfig(({ mode }) => ({
  build: {
    outDir: '../src/keen_ripple/handoff/built',
    emptyOutDir: false,
    copyPublicDir: false,
    lib: { entry: ENTRIES[mode] ?? mode, formats: ['iife'], name: mode, fileName: () => `${mode}.js` },
  },
}));
