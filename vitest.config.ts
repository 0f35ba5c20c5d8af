import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{packages/*,demo,bench}/src/**/*.test.ts'],
    testTimeout: 60_000,
  },
});
