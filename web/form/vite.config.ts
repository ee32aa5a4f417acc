import { defineConfig } from 'vite';
import { messages } from '../build/messages.ts';

/** The custom element as one module for any page; it stands beside the console, which the service serves. */
export default defineConfig({
  root: import.meta.dirname,
  plugins: [messages()],
  build: {
    outDir: '../console/dist',
    emptyOutDir: false,
    lib: { entry: 'src/element.ts', formats: ['es'], fileName: () => 'bright-form.js' },
  },
});
