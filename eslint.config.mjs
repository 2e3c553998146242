import './scripts/node20.mjs'
import { existsSync, readdirSync } from 'node:fs'
import { importX } from 'eslint-plugin-import-x'
import withNuxt from './.nuxt/eslint.config.mjs'
import { zones } from './scripts/lint/layers.mjs'
import { noCircle } from './scripts/lint/no-circle.mjs'
import { plainWords } from './scripts/lint/plain-words.mjs'
import { resolver } from './scripts/lint/resolve.mjs'

/** What the core may never touch: the web framework, SQL, the machine's clock, and chance that is not passed in. */
const pure = {
  files: ['core/**/*.ts'],
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

const areas = existsSync('app/features') ? readdirSync('app/features') : []

/** Nobody leads back to itself, and each room imports only what stands below it. */
const walls = [
  {
    files: ['**/*.{ts,mts,mjs,vue}'],
    plugins: { house: { rules: { 'no-circle': noCircle } } },
    rules: { 'house/no-circle': 'error' },
  },
  {
    files: ['{app,core,server}/**/*.{ts,vue}'],
    // Tests look at a room through another one; and an empty workspace to test in is the demo's.
    ignores: ['server/**/*.test.ts', 'server/testing/**'],
    plugins: { 'import-x': importX },
    settings: { 'import-x/resolver-next': [resolver] },
    rules: { 'import-x/no-restricted-paths': ['error', { zones: zones(areas) }] },
  },
]

/** Formatting breaks lines of code; this is for comments, and for code behind which formatting gives up. */
const AS_LONG_AS_IT_IS = {
  ignoreStrings: true,
  ignoreTemplateLiterals: true,
  ignoreUrls: true,
  ignoreRegExpLiterals: true,
}
const lines = [
  { files: ['**/*.{ts,mts,mjs}'], rules: { 'max-len': ['error', { code: 120, ...AS_LONG_AS_IT_IS }] } },
  {
    files: ['**/*.vue'],
    rules: {
      'vue/max-len': [
        'error',
        {
          code: 120,
          template: 120,
          ...AS_LONG_AS_IT_IS,
          ignoreHTMLAttributeValues: true,
          ignoreHTMLTextContents: true,
        },
      ],
    },
  },
]

/** Every text says the same thing by the same plain word. */
const words = {
  files: ['{app,core,server,demo,cli}/**/*.{ts,vue}'],
  ignores: ['**/*.test.ts'],
  plugins: { words: { rules: { plain: plainWords } } },
  rules: { 'words/plain': 'error' },
}

export default withNuxt(
  { ignores: ['.worker/**', 'test-results/**', 'docs/**', 'server/db/migrations/**', 'clients/**'] },
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
      // Types of TypeScript stand in templates; filters are gone since Vue 3, and a bar between types is none.
      'vue/no-deprecated-filter': 'off',
    },
  },
  pure,
  ...walls,
  words,
  ...lines,
  {
    files: ['app/**/*.{ts,vue}'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        { patterns: [{ group: ['~~/server/**'], allowTypeImports: true, message: 'Only types of the server.' }] },
      ],
    },
  },
)
