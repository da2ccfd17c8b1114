import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import tseslint from 'typescript-eslint';

/** Imports point one way: web, server and cli to core; server and cli to engine; engine to core. */
const onlyFrom = (files, forbidden, message) => ({
  files,
  rules: { 'no-restricted-imports': ['error', { patterns: forbidden.map((group) => ({ group: [group], message })) }] },
});

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', 'data/**', 'e2e/results/**'] },
  ...tseslint.configs.strict,
  {
    languageOptions: { globals: { ...globals.node } },
    linterOptions: { reportUnusedDisableDirectives: 'error' },
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', ignoreRestSiblings: true }],
      '@typescript-eslint/no-extraneous-class': ['error', { allowWithDecorator: true }],
      eqeqeq: 'error',
      'no-console': 'error',
    },
  },
  onlyFrom(
    ['core/src/**'],
    ['node:*', 'react*', '@nestjs/*', '@mikro-orm/*', '@zest-jaw/*', '**/engine/**', '**/server/**', '**/web/**'],
    'core stands alone: no Node, no DOM, no framework, no other workspace.',
  ),
  onlyFrom(['engine/src/**'], ['@zest-jaw/server', '@zest-jaw/web', '@zest-jaw/cli', '@nestjs/*', 'react*'], 'engine imports only core.'),
  onlyFrom(
    ['web/src/**'],
    ['@zest-jaw/server', '@zest-jaw/engine', '@zest-jaw/cli', 'node:*', '**/server/**', '**/engine/**'],
    'web imports only core.',
  ),
  onlyFrom(['server/src/**'], ['@zest-jaw/web', '@zest-jaw/cli', '**/web/**'], 'server imports only core and engine.'),
  onlyFrom(['cli/src/**'], ['@zest-jaw/server', '@zest-jaw/web', '**/server/**', '**/web/**'], 'cli imports only core and engine.'),
  { files: ['core/src/**/*.test.ts', 'web/src/**/*.test.{ts,tsx}'], rules: { 'no-restricted-imports': 'off' } },
  // Nest reads constructor and property types at run time, so they must stay value imports.
  { files: ['server/src/**'], rules: { '@typescript-eslint/consistent-type-imports': 'off' } },
  {
    files: ['web/src/**'],
    languageOptions: { globals: globals.browser },
    plugins: { 'react-hooks': hooks },
    // The compiler is not used, so what it would skip is of no concern.
    rules: { ...hooks.configs.recommended.rules, 'react-hooks/incompatible-library': 'off' },
  },
  { files: ['scripts/**', 'demo/**', 'cli/**', '**/*.bench.ts'], rules: { 'no-console': 'off' } },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
);
