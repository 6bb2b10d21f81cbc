import js from '@eslint/js'
import tseslint from 'typescript-eslint'
import reactHooks from 'eslint-plugin-react-hooks'

export default tseslint.config(
  {
    ignores: [
      'node_modules',
      'dist',
      '.data',
      'test-results',
      'playwright-report',
      'server/store/migrations',
    ],
  },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      // what only the types know
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true },
      ],
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
    },
  },
  { files: ['web/**/*.{ts,tsx}'], ...reactHooks.configs.flat['recommended-latest'] },
  // nothing is compiled to memoise by itself, so libraries that forbid it are as good as others
  { files: ['web/**/*.{ts,tsx}'], rules: { 'react-hooks/incompatible-library': 'off' } },
  {
    files: ['web/**/*.{ts,tsx}'],
    ignores: ['web/parts/keys.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          name: 'react-hotkeys-hook',
          message: 'A key is a row of a table, bound by useKey of web/parts/keys.ts.',
        },
      ],
    },
  },
  {
    files: ['core/**/*.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        ...['process', 'Buffer', 'window', 'document', 'navigator', 'localStorage', 'fetch', 'performance'],
      ],
    },
  },
  { files: ['test/**/*.ts'], rules: { '@typescript-eslint/no-unused-expressions': 'off' } },
  {
    files: ['**/*.{mjs,cjs}', '*.js'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        setTimeout: 'readonly',
        clearTimeout: 'readonly',
        setInterval: 'readonly',
        clearInterval: 'readonly',
        fetch: 'readonly',
        URL: 'readonly',
        AbortSignal: 'readonly',
        Buffer: 'readonly',
        document: 'readonly',
        module: 'readonly',
      },
    },
  },
)
