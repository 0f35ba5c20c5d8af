import { fileURLToPath } from 'node:url';
import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';

const noStyles = fileURLToPath(new URL('packages/app/src/testing/noStyles.ts', import.meta.url));
const test = { testTimeout: 60_000 };

export default defineConfig({
  test: {
    // Both cores: by itself the runner leaves one to whoever watches.
    maxWorkers: 2,
    projects: [
      {
        // Nothing in core changes what other tests of it use, so that they share one set of modules: most of their time was reading them.
        test: {
          ...test,
          name: 'core',
          include: ['{packages/{core,server,cli},demo,bench}/src/**/*.test.ts'],
          isolate: false,
        },
      },
      {
        plugins: [vue()],
        // Nothing is drawn: styles of components are nothing.
        resolve: { alias: [{ find: /^element-plus\/es\/components\/[\w-]+\/style\/css$/, replacement: noStyles }] },
        test: {
          ...test,
          name: 'app',
          // Each file a process: tabs talk on a channel, and threads of one process would hear each other.
          pool: 'forks',
          include: ['packages/app/src/**/*.test.ts'],
          setupFiles: ['packages/app/src/testing/browserDoubles.ts'],
        },
      },
    ],
  },
});
