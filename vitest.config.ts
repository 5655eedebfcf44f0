import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'core',
          include: ['core/src/**/*.test.ts', 'cli/src/**/*.test.ts'],
          environment: 'node',
          setupFiles: [fileURLToPath(new URL('./core/src/fixtures/near.ts', import.meta.url))],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'server',
          include: ['server/**/*.test.ts'],
          environment: 'node',
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
      {
        plugins: [vue()],
        resolve: { alias: { '~': fileURLToPath(new URL('./app', import.meta.url)) } },
        test: {
          name: 'app',
          include: ['app/**/*.test.ts'],
          environment: 'happy-dom',
          setupFiles: ['app/test/nuxt-globals.ts'],
        },
      },
    ],
  },
})
