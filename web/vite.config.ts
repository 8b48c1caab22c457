import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue()],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: { outDir: 'target/classes/static', emptyOutDir: true, chunkSizeWarningLimit: 1500 },
  server: {
    // the documentation lies beside
    fs: { allow: ['..'] },
    proxy: { '/api': 'http://127.0.0.1:8321' },
  },
  test: { environment: 'happy-dom' },
})
