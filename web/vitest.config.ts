import { defineConfig } from 'vitest/config';
import { messages } from './build/messages.ts';

export default defineConfig({
  plugins: [messages()],
  test: {
    globals: true,
    environment: 'jsdom',
    include: ['*/tests/**/*.test.{ts,tsx}'],
    setupFiles: ['form/tests/patience.ts', 'console/tests/texts.ts'],
    testTimeout: 60_000,
    // Some of these wait: with one worker the other processor would too.
    maxWorkers: 2,
  },
});
