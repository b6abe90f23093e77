import tseslint from 'typescript-eslint';
import importPlugin from 'eslint-plugin-import';
import reactHooks from 'eslint-plugin-react-hooks';

const platformFree = [
  'packages/core/src/**/*.ts',
  'packages/importers/src/**/*.ts',
  'packages/{exchange,exporters}/src/**/*.ts',
];

export default tseslint.config(
  {
    ignores: [
      '**/dist/**',
      '**/*.d.ts',
      '.dependency-cruiser.cjs',
      '**/node_modules/**',
      'data/**',
      'test-results/**',
      'playwright-report/**',
      '.cache/**',
    ],
  },
  ...tseslint.configs.strictTypeChecked,
  importPlugin.flatConfigs.typescript,
  {
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    settings: { 'import/ignore': ['node_modules'] },
    rules: {
      'import/no-cycle': ['error', { ignoreExternal: true }],
      'import/no-default-export': 'error',
      // Typed arrays are read in bounded loops: with noUncheckedIndexedAccess the assertion is the honest spelling.
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/no-confusing-void-expression': [
        'error',
        { ignoreArrowShorthand: true, ignoreVoidReturningFunctions: true },
      ],
      '@typescript-eslint/no-extraneous-class': ['error', { allowWithDecorator: true, allowEmpty: true }],
      '@typescript-eslint/consistent-type-imports': 'error',
      // DTOs are plain objects on the wire: their classes carry the checks, never behaviour.
      '@typescript-eslint/no-unsafe-class-instance-assignment': 'off',
      '@typescript-eslint/no-misused-spread': 'off',
      // the only way to a declaration that every package compiling the file needs
      '@typescript-eslint/triple-slash-reference': ['error', { path: 'always' }],
      eqeqeq: 'error',
    },
  },
  {
    files: platformFree,
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'The core knows no clock: pass the time in.' },
        { object: 'Math', property: 'random', message: 'The core is deterministic: pass a generator in.' },
      ],
      'no-restricted-globals': ['error', 'window', 'document', 'setTimeout', 'performance', 'process'],
    },
  },
  { files: ['packages/web/src/**/*.{ts,tsx}'], ...reactHooks.configs.flat.recommended },
  // what stores and forms hand out never uses `this`
  { files: ['packages/web/src/**/*.tsx'], rules: { '@typescript-eslint/unbound-method': 'off' } },
  { files: ['**/*.config.{ts,js}', '**/*.tsx'], rules: { 'import/no-default-export': 'off' } },
  { files: ['**/*.{js,mjs}'], ...tseslint.configs.disableTypeChecked },
  {
    files: ['**/*.test.ts', 'packages/*/test/**/*.ts'],
    languageOptions: {
      parserOptions: { projectService: false, project: './tsconfig.tests.json', tsconfigRootDir: import.meta.dirname },
    },
  },
);
