import tailwindcss from '@tailwindcss/vite'
import { nodeWorkers } from './build-tools/node-workers'

export default defineNuxtConfig({
  compatibilityDate: '2026-11-01',
  modules: ['@pinia/nuxt', '@vueuse/nuxt', 'nuxt-security'],
  devtools: { enabled: false },
  telemetry: { enabled: false },
  css: ['~/assets/main.css'],
  app: {
    head: {
      htmlAttrs: { lang: 'en' },
      title: 'Hypomet',
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/favicon.svg' }],
    },
  },
  typescript: { strict: true, typeCheck: false },
  imports: { dirs: ['composables/**'] },
  components: [{ path: '~/components', pathPrefix: false }],
  vite: {
    plugins: [tailwindcss()],
    worker: { format: 'es' },
    optimizeDeps: {
      include: [
        'echarts/core',
        'echarts/charts',
        'echarts/components',
        'echarts/renderers',
        '@headlessui/vue',
        '@lucide/vue',
        'vee-validate',
        'zod',
        '@stdlib/stats-base-dists-normal-cdf',
        '@stdlib/stats-base-dists-normal-quantile',
        '@stdlib/stats-base-dists-t-quantile',
      ],
    },
  },
  // Hypomet serves plain http on the loopback address: the defaults that presume https are off.
  security: {
    corsHandler: false,
    rateLimiter: false,
    xssValidator: false,
    requestSizeLimiter: false,
    removeLoggers: false,
    headers: {
      strictTransportSecurity: false,
      crossOriginEmbedderPolicy: false,
      contentSecurityPolicy: {
        'default-src': ["'self'"],
        'connect-src': ["'self'"],
        'worker-src': ["'self'", 'blob:'],
        'font-src': ["'self'"],
        'img-src': ["'self'", 'data:', 'blob:'],
        'style-src': ["'self'", "'unsafe-inline'"],
        'script-src': ["'self'", "'strict-dynamic'", "'nonce-{{nonce}}'", "'wasm-unsafe-eval'"],
        'upgrade-insecure-requests': false,
      },
    },
  },
  hooks: {
    'nitro:config'(config) {
      config.experimental = { ...config.experimental, websocket: true }
    },
  },
  nitro: {
    preset: 'node-server',
    esbuild: { options: { target: 'es2022' } },
    serverAssets: [{ baseName: 'migrations', dir: './db/migrations' }],
    rollupConfig: { plugins: [nodeWorkers({ folder: 'server/workers', external: ['@libsql/client'] })] } as never,
  },
})
