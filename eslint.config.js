import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'

const layers = (files, forbidden, message) => ({
  files,
  rules: { 'no-restricted-imports': ['error', { patterns: [{ group: forbidden, message }] }] },
})

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.geodrome/**', 'e2e/test-results/**'] },
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
  // Dependencies point one way: forecast, review → schedule → network → plan, time. Words speak of all of them.
  layers(
    ['core/src/time/**/*.ts'],
    ['*/plan/*', '*/network/*', '*/schedule/*', '*/forecast/*', '*/review/*', '*/scenario/*', '*/words/*'],
    'time depends on nothing',
  ),
  layers(
    ['core/src/plan/**/*.ts'],
    ['*/network/*', '*/schedule/*', '*/forecast/*', '*/review/*', '*/scenario/*', '*/words/*'],
    'the plan document depends on time only',
  ),
  layers(
    ['core/src/network/**/*.ts'],
    ['*/schedule/*', '*/forecast/*', '*/review/*', '*/scenario/*', '*/words/*'],
    'the network depends on plan and time',
  ),
  layers(
    ['core/src/schedule/**/*.ts'],
    ['*/forecast/*', '*/review/*', '*/scenario/*', '*/words/*'],
    'the schedule depends on network, plan and time',
  ),
  layers(['core/src/**/*.ts'], ['node:*', 'vue', 'express'], 'core is plain TypeScript'),
  { files: ['core/src/**/*.test.ts', 'core/src/**/testing/**'], rules: { 'no-restricted-imports': 'off' } },
)
