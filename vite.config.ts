import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'
import { VitePWA } from 'vite-plugin-pwa'
import { readerPlugin } from './scripts/reader.mjs'
import { REMEMBERED } from './web/data/remembered.ts'

export default defineConfig({
  root: 'web',
  plugins: [
    react(),
    tailwindcss(),
    readerPlugin(),
    VitePWA({
      // the worker before goes on serving the pages it opened, until they say that they become the newer app
      registerType: 'prompt',
      injectRegister: null,
      manifest: {
        name: 'Veer Line',
        short_name: 'Veer Line',
        description: 'Plans, logs and weighs the throws that say how stable a golf disc is.',
        display: 'standalone',
        start_url: '/',
        theme_color: '#17392f',
        background_color: '#f3f5f1',
        icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
      },
      workbox: {
        clientsClaim: true,
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//, /^\/published(\/|$)/],
        // what the server answered last, for when it does not; streams are never kept
        runtimeCaching: [
          {
            urlPattern: ({ url, request }) =>
              request.method === 'GET' &&
              url.pathname.startsWith('/api/') &&
              !url.pathname.startsWith('/api/devices/') &&
              !/^\/api\/(now|news|imports|errands|copies|custody|keys|passes|failed-tries|offers|sharing)(\/|$)/.test(
                url.pathname,
              ) &&
              request.headers.get('accept') !== 'text/event-stream',
            handler: 'NetworkFirst',
            options: { cacheName: REMEMBERED, cacheableResponse: { statuses: [200] } },
          },
        ],
      },
    }),
  ],
  worker: { format: 'es' },
  build: { outDir: '../dist', emptyOutDir: true, target: 'es2022' },
  server: {
    proxy: Object.fromEntries(
      ['/api', '/published'].map((at) => [at, process.env['VEER_API'] ?? 'http://127.0.0.1:4461']),
    ),
  },
})
