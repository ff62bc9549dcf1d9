import { fileURLToPath, URL } from 'node:url'

import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'
import vuetify from 'vite-plugin-vuetify'

export default defineConfig({
  base: '/static/',
  plugins: [vue(), vuetify({ autoImport: true })],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: { manifest: 'manifest.json', rollupOptions: { input: 'src/main.ts' } },
  test: {
    environment: 'happy-dom',
    environmentOptions: { happyDOM: { url: 'http://localhost/' } },
    // A loaded machine is slow, not wrong.
    testTimeout: 60_000,
    include: ['tests/**/*.test.ts'],
    server: { deps: { inline: ['vuetify'] } },
  },
})
