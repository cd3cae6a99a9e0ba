import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import ts from 'typescript-eslint';

/** A cast takes the compiler's word away: a comment on its line, or on the one before, says why that is right. */
const castSaysWhy = {
  meta: {
    type: 'suggestion',
    messages: { silent: 'say in a comment why this cast is right, or do without' },
  },
  create(context) {
    const { sourceCode } = context;
    const told = new Set(
      sourceCode.getAllComments().flatMap(({ loc }) => [loc.end.line, loc.end.line + 1, loc.start.line]),
    );
    return {
      TSAsExpression(node) {
        if (sourceCode.getText(node.typeAnnotation) === 'const') return;
        if (!told.has(node.loc.start.line) && !told.has(node.loc.end.line))
          context.report({ node, messageId: 'silent' });
      },
    };
  },
};

export default ts.config(
  { ignores: ['**/dist/**', 'data/**', 'test-results/**', '.cache/**', 'node_modules/**'] },
  js.configs.recommended,
  ...ts.configs.strict,
  {
    languageOptions: { globals: { ...globals.node } },
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      // Naming a key to leave it out of the rest is how an object is copied without it.
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', ignoreRestSiblings: true }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'max-lines': ['error', { max: 320, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    files: ['packages/web/**/*.{ts,tsx}'],
    languageOptions: { globals: { ...globals.browser } },
    plugins: { 'react-hooks': hooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
    },
  },
  {
    files: ['packages/web/src/**'],
    ignores: ['**/*.test.ts'],
    rules: {
      // A screen is split by what it shows.
      'max-lines-per-function': ['error', { max: 90, IIFEs: true }],
    },
  },
  {
    // The solver counts by index in its own tables; tests fail by themselves where something is missing.
    files: ['packages/core/src/solver/**', '**/test/**', '**/*.test.ts', 'e2e/**', 'scripts/**', 'bench/**'],
    rules: { '@typescript-eslint/no-non-null-assertion': 'off' },
  },
  {
    files: ['packages/*/src/**'],
    ignores: ['**/*.test.ts'],
    plugins: { house: { rules: { 'cast-says-why': castSaysWhy } } },
    rules: { 'house/cast-says-why': 'error' },
  },
  { files: ['scripts/**'], languageOptions: { globals: { ...globals.node, ...globals.browser } } },
);
