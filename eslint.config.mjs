import next from '@next/eslint-plugin-next';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  {
    ignores: [
      '.next/**',
      'node_modules/**',
      'public/**',
      'next-env.d.ts',
      '.data/**',
      'test-results/**',
      'playwright-report/**',
    ],
  },
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/consistent-type-imports': 'error',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  {
    // One door: decisions are written by act(), whole shops by restore, migration and demo, and by nothing else.
    files: ['src/**/*.{ts,tsx}'],
    ignores: [
      '**/*.test.ts',
      'src/core/**',
      'src/store/records/act.ts',
      'src/store/records/migrations.ts',
      'src/store/backup/*.ts',
      'src/store/imports/demo.ts',
    ],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector:
            'CallExpression[callee.property.name=/^(add|put|update|delete|clear|modify|bulkAdd|bulkPut|bulkUpdate|bulkDelete)$/][callee.object.property.name=/^(events|summaries)$/]',
          message: 'Events and summaries are written by act() in store/records/act.ts, after a decision.',
        },
      ],
    },
  },
  {
    // The core is told the time, the zone and the seed; it never asks for them.
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', 'fetch', 'window', 'document', 'localStorage', 'indexedDB', 'crypto'],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'The core is given the time.' },
        { object: 'Math', property: 'random', message: 'The core is given a seed.' },
        { object: 'performance', property: 'now', message: 'The core is given a clock.' },
      ],
      'no-restricted-syntax': [
        'error',
        { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: 'The core is given the time.' },
        {
          selector: 'MemberExpression[property.name=/^get(Hours|Date|Day|Month|FullYear|Minutes)$/]',
          message: 'Use UTC getters or a zone.',
        },
        {
          selector: 'CallExpression[callee.property.name=/^toLocale/]',
          message: 'Name the locale: use Intl with one.',
        },
      ],
    },
  },
  {
    files: ['src/**/*.tsx', 'src/**/use*.ts'],
    plugins: { 'react-hooks': hooks, '@next/next': next },
    rules: { ...hooks.configs.recommended.rules, ...next.configs.recommended.rules },
  },
);
