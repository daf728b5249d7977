import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['node_modules/**', '.next/**', 'dist/**', 'data/**', 'test-results/**', 'next-env.d.ts'] },
  ...tseslint.configs.recommended,
  {
    files: ['src/ui/**/*.{ts,tsx}', 'src/app/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: { ...reactHooks.configs.recommended.rules },
  },
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      eqeqeq: 'error',
      'no-console': 'off',
    },
  },
  {
    // The core is pure computation: the clock, chance and the outside world are passed in.
    files: ['src/core/**/*.ts'],
    ignores: ['src/core/**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        ...['Date', 'process', 'Buffer', 'fetch', 'setTimeout', 'setInterval', 'window', 'document', 'performance'].map(
          (name) => ({ name, message: 'core is pure: pass it in.' }),
        ),
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'core is pure: pass it in.' },
      ],
      'no-restricted-imports': ['error', { patterns: [{ group: ['node:*'], message: 'core has no Node built-ins.' }] }],
    },
  },
);
