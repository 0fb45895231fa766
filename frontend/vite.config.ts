import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

// The page is built into the Python package, which serves it.
export default defineConfig({
  plugins: [react()],
  build: {
    outDir: '../src/keen_ripple/web/dist',
    emptyOutDir: true,
    manifest: true,
    assetsInlineLimit: 0,
  },
});
