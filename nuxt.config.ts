import { fileURLToPath } from 'node:url'

export default defineNuxtConfig({
  compatibilityDate: '2026-01-01',
  modules: ['@pinia/nuxt', '@nuxt/eslint'],
  telemetry: false,
  devtools: { enabled: false },
  css: ['@fontsource-variable/newsreader/index.css', '@fontsource-variable/newsreader/wght-italic.css', '@fontsource-variable/hanken-grotesk/index.css', '~/assets/main.css'],
  alias: { '#core': fileURLToPath(new URL('./core', import.meta.url)) },
  components: [{ path: '~/components', pathPrefix: false }],
  postcss: { plugins: { '@tailwindcss/postcss': {} } },
  nitro: { preset: 'node-server' },
  typescript: { strict: true, tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true, noImplicitOverride: true } } },
  app: {
    head: {
      title: 'Sky Lever',
      htmlAttrs: { lang: 'en' },
      meta: [{ name: 'viewport', content: 'width=device-width, initial-scale=1' }, { name: 'description', content: 'Rules for your records: prove them first, see what is ahead, explain everything they did.' }],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/mark.svg' }],
    },
  },
  eslint: { config: { standalone: true } },
})
