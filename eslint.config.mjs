import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['**/dist/', '**/node_modules/', '.data/', 'test-results/', 'playwright-report/'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_', destructuredArrayIgnorePattern: '^_' }],
      'max-lines': ['error', { max: 400, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    files: ['apps/web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  // Layers: what each folder may import (docs/ARCHITECTURE.md).
  {
    files: ['packages/core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: { 'no-restricted-imports': ['error', { patterns: ['@bathyscope/*', 'react', 'react/*', '@nestjs/*', 'node:*'] }], 'no-restricted-globals': ['error', 'document', 'window', 'fetch'] },
  },
  {
    files: ['apps/web/src/**/*.{ts,tsx}'],
    rules: { 'no-restricted-imports': ['error', { patterns: ['@bathyscope/kernel', '@bathyscope/server', '@nestjs/*', 'knex'] }] },
  },
  {
    files: ['apps/web/src/scene/**/*.ts', 'apps/web/src/stores/**/*.ts'],
    rules: { 'no-restricted-imports': ['error', { patterns: ['react', 'react-dom', 'react-router'] }] },
  },
  { files: ['**/*.mjs'], languageOptions: { globals: { process: 'readonly', console: 'readonly', URL: 'readonly', performance: 'readonly', Buffer: 'readonly', setTimeout: 'readonly', clearTimeout: 'readonly' } } },
  { files: ['apps/web/public/*.js'], languageOptions: { globals: { localStorage: 'readonly', document: 'readonly' } } },
);
