import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

// The page is built into the Python package, which serves it.
export default defineConfig({
  plugins: [react()],
  resolve: {
    alias: {
      // Its fields bring the forms of Ant Design with them, of which this page has none: 14 kB.
      '@rc-component/form': new URL('src/app/noForms.ts', import.meta.url).pathname,
    },
  },
  build: {
    outDir: '../src/keen_ripple/web/dist',
    emptyOutDir: true,
    manifest: true,
    assetsInlineLimit: 0,
  },
});
