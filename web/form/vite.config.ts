import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

/** The custom element as one module for any page; it stands beside the console, which the service serves. */
export default defineConfig({
  root: import.meta.dirname,
  plugins: [react()],
  define: { 'process.env.NODE_ENV': '"production"' },
  build: { outDir: '../console/dist', emptyOutDir: false, lib: { entry: 'src/element.tsx', formats: ['es'], fileName: () => 'bright-form.js' } },
});
