import { fileURLToPath, URL } from 'node:url'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

/** What every screen is made of comes at once, with the page: a request less for each of it. */
const HOUSE = /\/src\/(ui|frame|taking|airpath|api)\/|\/@primeuix\/|\/primevue\/|plugin-vue:export-helper/

function manualChunks(id: string): string | undefined {
  return HOUSE.test(id) ? 'house' : undefined
}

export default defineConfig({
  plugins: [vue()],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  server: { host: '127.0.0.1', proxy: { '/api': 'http://127.0.0.1:8640' } },
  build: { outDir: 'dist', emptyOutDir: true, rollupOptions: { output: { manualChunks } } },
  test: { environment: 'happy-dom', include: ['src/**/*.test.ts'] },
})
