import { fileURLToPath } from 'node:url'
import { bundle } from './scripts/bundle.mjs'
import { condenseText } from './scripts/condense-text.mjs'
import { withoutExamples } from './scripts/without-examples.mjs'

/** The thread that works in bulk is a program of its own: bundled beside the server, started by its path. */
const bundleWorker = (folder: string) => bundle('server/worker/entry.ts', `${folder}/engine-worker.mjs`)

export default defineNuxtConfig({
  compatibilityDate: '2026-01-01',
  modules: ['@pinia/nuxt', '@nuxt/eslint', 'nuxt-security'],
  telemetry: false,
  // Nothing reads them: the server runs without source maps, and a browser gets none.
  sourcemap: false,
  devtools: { enabled: false },
  css: [
    '@fontsource-variable/newsreader/index.css',
    '@fontsource-variable/newsreader/wght-italic.css',
    '@fontsource-variable/hanken-grotesk/index.css',
    '~/assets/main.css',
  ],
  // A line's end between two words is a blank, as in HTML and as the formatter takes it; the usual way drops it.
  vue: { compilerOptions: { whitespace: 'preserve', nodeTransforms: [condenseText] } },
  // Small fonts stay files: the policy allows none that stand in a style.
  vite: { build: { assetsInlineLimit: 0 }, plugins: [withoutExamples()] },
  alias: { '#core': fileURLToPath(new URL('./core', import.meta.url)) },
  // What is ours is imported by name, so that the linter sees who uses what; what is Nuxt's and Vue's is at hand.
  components: { dirs: [] },
  imports: { scan: false },
  pinia: { storesDirs: [] },
  postcss: { plugins: { '@tailwindcss/postcss': {} } },
  // Headers only. Attempts, origins and sizes are looked after where they are known: at the door and in each route.
  security: {
    nonce: true,
    sri: false,
    rateLimiter: false,
    requestSizeLimiter: false,
    xssValidator: false,
    corsHandler: false,
    allowedMethodsRestricter: false,
    csrf: false,
    removeLoggers: false,
    headers: {
      contentSecurityPolicy: {
        'default-src': ["'self'"],
        'script-src': ["'self'", "'nonce-{{nonce}}'", "'strict-dynamic'"],
        // Positions of popovers and lengths of bars are style attributes; a style can show nothing that is not there.
        'style-src': ["'self'", "'unsafe-inline'"],
        'img-src': ["'self'", 'data:'],
        'font-src': ["'self'"],
        'connect-src': ["'self'"],
        'frame-ancestors': ["'none'"],
        'form-action': ["'self'"],
        'base-uri': ["'none'"],
        'object-src': ["'none'"],
        'script-src-attr': ["'none'"],
        // It is served over plain http on the machine itself; what stands before it redirects.
        'upgrade-insecure-requests': false,
      },
      xFrameOptions: 'DENY',
      referrerPolicy: 'same-origin',
      strictTransportSecurity: false,
      crossOriginEmbedderPolicy: false,
    },
  },
  // Files are compressed when they are built; what is answered, in server/plugins/compress.
  // The pages of the stand-in website say themselves what they may load, and are shown within a page of ours.
  routeRules: {
    '/website/**': { security: { headers: false } },
    '/website': { security: { headers: false } },
    '/preferences/**': { security: { headers: false } },
    '/book/**': { security: { headers: false } },
    '/book': { security: { headers: false } },
  },
  nitro: {
    preset: 'node-server',
    compressPublicAssets: { gzip: true, brotli: true },
    // What a module of ours does when it is loaded (hand an engine in, say it in our words) is not left out.
    moduleSideEffects: ['./core/', './server/'].map((folder) => fileURLToPath(new URL(folder, import.meta.url))),
  },
  // Another page is fetched when a link to it is pointed at: the first one is not made to wait for all others.
  experimental: { defaults: { nuxtLink: { prefetchOn: { interaction: true, visibility: false } } } },
  typescript: {
    strict: true,
    tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true, noImplicitOverride: true } },
  },
  app: {
    head: {
      title: 'Sky Lever',
      htmlAttrs: { lang: 'en' },
      meta: [
        { name: 'viewport', content: 'width=device-width, initial-scale=1' },
        {
          name: 'description',
          content: 'Rules for your records: prove them first, see what is ahead, explain everything they did.',
        },
      ],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/mark.svg' }],
    },
  },
  hooks: {
    // What a page may need later (editors, charts, files) is fetched when it does, not beside its first screen.
    'build:manifest'(manifest) {
      for (const file of Object.values(manifest)) {
        file.prefetch = false
        file.dynamicImports = []
      }
    },
    async 'nitro:init'(nitro) {
      if (nitro.options.dev) await bundleWorker('.worker')
      else
        nitro.hooks.hook('compiled', async () => {
          await bundleWorker(nitro.options.output.serverDir)
        })
    },
  },
  eslint: { config: { standalone: true } },
})
