import './scripts/node20.mjs'
import withNuxt from './.nuxt/eslint.config.mjs'

/** What the core may never touch: the web framework, SQL, the machine's clock, and chance that is not passed in. */
const pure = {
  files: ['core/**/*.ts'],
  // What only tests use may take the demo's fields and people.
  ignores: ['**/*.test.ts', 'core/testing/**'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          'vue',
          'vue/*',
          'nuxt',
          'nuxt/*',
          '#imports',
          'h3',
          'drizzle-orm',
          'drizzle-orm/*',
          'better-sqlite3',
          'node:*',
          '**/server/**',
          '**/app/**',
          '**/demo/**',
        ],
      },
    ],
    'no-restricted-globals': ['error', 'process', 'window', 'document', 'setTimeout', 'setInterval', 'fetch'],
    'no-restricted-properties': [
      'error',
      { object: 'Date', property: 'now' },
      { object: 'Math', property: 'random' },
      { object: 'Temporal', property: 'Now' },
    ],
    'no-restricted-syntax': [
      'error',
      { selector: 'NewExpression[callee.name="Date"][arguments.length=0]', message: 'The time comes from the world.' },
    ],
  },
}

export default withNuxt(
  { ignores: ['.worker/**', 'test-results/**', 'docs/**', 'server/db/migrations/**'] },
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      'no-console': ['error', { allow: ['error', 'log', 'warn'] }],
      'vue/html-self-closing': 'off',
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
      'vue/no-multiple-template-root': 'off',
      'vue/first-attribute-linebreak': 'off',
      'vue/html-indent': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/no-v-html': 'error',
      'vue/attributes-order': 'off',
    },
  },
  pure,
)
