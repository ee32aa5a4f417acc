import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    globals: true,
    environment: 'jsdom',
    include: ['*/tests/**/*.test.{ts,tsx}'],
    setupFiles: ['form/tests/patience.ts'],
    testTimeout: 60_000,
  },
});
