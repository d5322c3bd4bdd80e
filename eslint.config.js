import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'

/** Layers and import cycles are checked by `npm run imports`, dead exports and unused packages by `npm run unused`. */
export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.geodrome/**', 'e2e/test-results/**', 'core/kernel/**'] },
  ...tseslint.configs.recommended,
  ...vue.configs['flat/essential'],
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': ['error', { disallowTypeAnnotations: false }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'no-console': 'error',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'vue/multi-word-component-names': 'off',
    },
  },
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: tseslint.parser } } },
  { files: ['scripts/**', 'bench/**'], rules: { 'no-console': 'off' } },
  {
    // What a reader cannot see and a compiler does not say: promises nobody waits for, kinds nobody handles.
    files: ['core/src/**/*.ts', 'print/src/**/*.ts', 'cli/src/**/*.ts', 'server/src/**/*.ts'],
    languageOptions: {
      parserOptions: {
        project: 'tsconfig.test.json',
        tsconfigRootDir: import.meta.dirname,
      },
    },
    rules: {
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-for-in-array': 'error',
      '@typescript-eslint/no-misused-promises': 'error',
      '@typescript-eslint/no-unnecessary-type-assertion': 'error',
      '@typescript-eslint/only-throw-error': 'error',
      '@typescript-eslint/prefer-promise-reject-errors': 'error',
      '@typescript-eslint/require-array-sort-compare': ['error', { ignoreStringArrays: true }],
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true },
      ],
    },
  },
)
