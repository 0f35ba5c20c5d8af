import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import tseslint from 'typescript-eslint';
import { typedScripts } from './scripts/typedScripts.mjs';

export default tseslint.config(
  { ignores: ['**/dist', '**/build', '**/node_modules', 'packages/kernel/assembly', '.reports', 'test-results'] },
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    // Typed, so that a promise that nobody waits for is an error: what is rejected there would be lost.
    files: ['packages/*/src/**/*.ts', 'demo/src/**/*.ts', 'bench/src/**/*.ts', 'e2e/*.ts'],
    languageOptions: {
      parserOptions: {
        project: ['tsconfig.json', 'packages/app/tsconfig.json'],
        tsconfigRootDir: import.meta.dirname,
      },
    },
  },
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: typedScripts(`${import.meta.dirname}/packages/app/tsconfig.json`) } },
  },
  {
    files: ['packages/*/src/**/*.{ts,vue}', 'demo/src/**/*.ts', 'bench/src/**/*.ts', 'e2e/*.ts'],
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      '@typescript-eslint/await-thenable': 'error',
    },
  },
  {
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off',
      'no-console': ['error', { allow: ['log', 'error'] }],
      eqeqeq: 'error',
    },
  },
  {
    // The run must give the same bits everywhere: no engine's own transcendental functions, no chance, no time.
    files: ['packages/core/src/{math,mesh,fabric,shot,solver,run}/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        ...['sin', 'cos', 'tan', 'atan', 'atan2', 'asin', 'acos', 'pow', 'exp', 'log', 'hypot', 'cbrt', 'random'].map(
          (property) => ({ object: 'Math', property, message: 'Differs between engines; see math/trigonometry.ts.' }),
        ),
        { object: 'Date', property: 'now', message: 'A run does not depend on time.' },
      ],
    },
  },
  { files: ['**/*.vue'], rules: { 'vue/multi-word-component-names': 'off' } },
  prettier,
);
