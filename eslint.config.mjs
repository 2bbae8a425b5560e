import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

const MODULE_STATE = [
  {
    selector: ':matches(Program, Program > ExportNamedDeclaration) > VariableDeclaration[kind="let"]',
    message: 'State in a module is shared by all workspaces: put it into the workspace.',
  },
  {
    selector:
      ':matches(Program, Program > ExportNamedDeclaration) > VariableDeclaration > VariableDeclarator > CallExpression CallExpression[callee.name="createStore"]',
    message: 'A store in a module is shared by all workspaces: export a function that makes it.',
  },
  {
    selector:
      ':matches(Program, Program > ExportNamedDeclaration) > VariableDeclaration > VariableDeclarator > NewExpression[callee.name=/^(Map|Set|WeakMap|WeakSet)$/][arguments.length=0]',
    message: 'A cache in a module is shared by all workspaces: make it a derived value.',
  },
];

/** Where a component or hook reads while it is drawn, and what it reads there without its being seen. */
const DRAWN = [
  'FunctionDeclaration[id.name=/^([A-Z]|use[A-Z])/] > BlockStatement > VariableDeclaration > VariableDeclarator > .init',
  'JSXExpressionContainer > .expression',
].flatMap((place) => [
  place,
  `${place}:matches(LogicalExpression, ConditionalExpression, ChainExpression, TemplateLiteral) > *`,
]);
const UNSEEN = DRAWN.flatMap((place) =>
  [
    'CallExpression[callee.name=/^(?!use)/][arguments.0.name="ws"]',
    'CallExpression[callee.property.name="getState"]',
    'MemberExpression[object.callee.property.name="getState"]',
  ].map((what) => ({
    selector: `${place}:matches(${what})`,
    message: 'Nobody draws this again when it changes: read it in useSeen, or by useStore or useDerived.',
  })),
);

export default ts.config(
  {
    ignores: [
      '**/dist/',
      '**/dist-test/',
      '**/node_modules/',
      '.data/',
      'test-results/',
      'playwright-report/',
    ],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', destructuredArrayIgnorePattern: '^_' },
      ],
      'max-lines': ['error', { max: 400, skipBlankLines: true, skipComments: true }],
      // As prettier breaks them; it leaves comments and what stands in quotes as they are.
      'max-len': [
        'error',
        {
          code: 110,
          ignoreStrings: true,
          ignoreTemplateLiterals: true,
          ignoreRegExpLiterals: true,
          ignoreUrls: true,
        },
      ],
    },
  },
  {
    files: ['apps/web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  // No promise is left alone. These rules need types; tests are under no tsconfig of their own.
  {
    files: ['apps/*/src/**/*.{ts,tsx}', 'packages/*/src/**/*.ts'],
    ignores: ['**/*.test.ts', '**/testing/**'],
    languageOptions: { parserOptions: { projectService: true } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
    },
  },
  // Layers: what each folder may import (docs/ARCHITECTURE.md).
  {
    files: ['packages/core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: ['@bathyscope/*', 'react', 'react/*', '@nestjs/*', 'node:*'] },
      ],
      'no-restricted-globals': ['error', 'document', 'window', 'fetch'],
    },
  },
  {
    files: ['apps/web/src/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: ['@bathyscope/kernel', '@bathyscope/server', '@nestjs/*', 'knex'],
          paths: [
            {
              name: 'sonner',
              importNames: ['toast'],
              message: 'Its notices may be lost: take ui/notices.ts.',
            },
          ],
        },
      ],
      'no-restricted-properties': [
        'error',
        { object: 'crypto', property: 'randomUUID', message: 'Pages over plain http have none: take uuid.' },
        { property: 'writeText', message: 'Pages over plain http have no clipboard: take copyText.' },
      ],
    },
  },
  {
    files: ['apps/web/src/commands/keep/copy-text.ts'],
    rules: { 'no-restricted-properties': 'off' },
  },
  {
    files: ['apps/web/src/ui/notices.ts'],
    rules: { 'no-restricted-imports': 'off' },
  },
  {
    files: ['scene', 'commands', 'pictures', 'workspace', 'state', 'workers'].map(
      (floor) => `apps/web/src/${floor}/**/*.ts`,
    ),
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: ['react', 'react-dom', 'react-router', 'sonner', '**/ui/notices.ts'] },
      ],
    },
  },
  {
    files: ['packages/core/src/**/*.ts', 'packages/kernel/src/**/*.ts'],
    ignores: ['**/*.test.ts', '**/testing/**', '**/tolerances.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'Literal[raw=/^\\d[\\d.]*e-/]',
          message: 'A tolerance has a name, a unit and a reason in tolerances.ts.',
        },
      ],
    },
  },
  // Nothing that changes lives in a module: what belongs to a model is made by createWorkspace, what belongs
  // to the page in main.tsx.
  {
    files: ['apps/web/src/**/*.{ts,tsx}'],
    ignores: ['**/*.test.ts', 'apps/web/src/testing/**', 'apps/web/src/workers/*-worker.ts'],
    rules: { 'no-restricted-syntax': ['error', ...MODULE_STATE] },
  },
  {
    files: ['apps/web/src/**/*.tsx'],
    ignores: ['**/*.test.tsx'],
    rules: { 'max-lines-per-function': ['error', { max: 100, skipBlankLines: true, skipComments: true }] },
  },
  // What React draws of the workspace it has to hear of: functions of the workspace are read in useSeen, or
  // are derived values.
  {
    files: ['apps/web/src/panels/**/*.tsx'],
    rules: { 'no-restricted-syntax': ['error', ...MODULE_STATE, ...UNSEEN] },
  },
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        URL: 'readonly',
        performance: 'readonly',
        Buffer: 'readonly',
        setTimeout: 'readonly',
        clearTimeout: 'readonly',
      },
    },
  },
  {
    files: ['apps/web/public/*.js'],
    languageOptions: { globals: { localStorage: 'readonly', document: 'readonly' } },
  },
);
