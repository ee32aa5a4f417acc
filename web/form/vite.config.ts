import { defineConfig } from 'vite';

/** The custom element as one module for any page; it stands beside the console, which the service serves. */
export default defineConfig({
  root: import.meta.dirname,
  build: {
    outDir: '../console/dist',
    emptyOutDir: false,
    lib: { entry: 'src/element.ts', formats: ['es'], fileName: () => 'bright-form.js' },
  },
});
