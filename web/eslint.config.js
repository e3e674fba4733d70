import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['src/shared/server/schema.gen.ts', 'src/components.d.ts'] },
  ...ts.configs.recommended,
  ...vue.configs['flat/essential'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: ts.parser } },
  },
  // No component talks to the API but through the hallway.
  {
    files: ['src/**/*.{vue,ts}'],
    ignores: ['src/shared/server/**'],
    rules: {
      'no-restricted-imports': ['error', { patterns: [{ group: ['openapi-fetch', 'idb', '@tanstack/*', '**/shared/server/*', '**/server/call', '**/server/kept'], message: 'Go through shared/server.' }] }],
      'no-restricted-globals': ['error', 'EventSource', 'XMLHttpRequest', 'indexedDB'],
    },
  },
  { rules: { 'vue/multi-word-component-names': 'off' } },
)
