import { fileURLToPath, URL } from 'node:url'

import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig } from 'vitest/config'

/** The API that stands behind the development server. */
const API = process.env.HAKOBU_API ?? 'http://127.0.0.1:8780'

export default defineConfig(({ command }) => ({
  base: command === 'build' ? '/static/' : '/',
  plugins: [vue(), vuetify({ autoImport: true })],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: { manifest: 'manifest.json', rollupOptions: { input: 'src/main.ts' } },
  server: {
    host: '127.0.0.1',
    proxy: {
      '/api': {
        target: API,
        changeOrigin: true,
        // The application takes changes from its own pages only.
        configure: (proxy) => proxy.on('proxyReq', (request) => request.getHeader('origin') && request.setHeader('origin', API)),
      },
    },
  },
  test: {
    environment: 'happy-dom',
    environmentOptions: { happyDOM: { url: 'http://localhost/' } },
    // A loaded machine is slow, not wrong.
    testTimeout: 60_000,
    include: ['tests/**/*.test.ts'],
    server: { deps: { inline: ['vuetify'] } },
  },
}))
