import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [vue()],
  test: {
    include: ['{packages/*,demo,bench}/src/**/*.test.ts'],
    setupFiles: ['packages/app/src/testing/standIns.ts'],
    testTimeout: 60_000,
  },
});
