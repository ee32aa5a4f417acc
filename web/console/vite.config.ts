import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';
import { messages } from '../build/messages.ts';

/**
 * The typeface is asked for with the page: found only in the style sheet it would come after the first words are laid out, and they would
 * be laid out twice.
 */
const typefaceAtOnce: Plugin = {
  name: 'typeface-at-once',
  transformIndexHtml: {
    order: 'post',
    handler: (_, { bundle }) =>
      Object.keys(bundle ?? {})
        .filter((file) => /-latin-wght-normal.*\.woff2$/.test(file))
        .map((file) => ({
          tag: 'link',
          attrs: { rel: 'preload', as: 'font', type: 'font/woff2', crossorigin: true, href: `/${file}` },
          injectTo: 'head-prepend' as const,
        })),
  },
};

export default defineConfig({
  root: import.meta.dirname,
  plugins: [messages(), react(), typefaceAtOnce],
  build: { outDir: 'dist', emptyOutDir: true, assetsInlineLimit: 0, modulePreload: { polyfill: false } },
  server: { proxy: { '/api': 'http://127.0.0.1:5080' } },
});
