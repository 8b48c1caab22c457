import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

/** What draws, and what can't do without: not every page needs it. */
const DRAWS =
  /node_modules\/(echarts|zrender|tslib)\/|\/src\/(chart\/(BandChart|echarts|useDrawing)|now\/ChartCard|sessions\/PartCard|series\/ChartGrid)/

export default defineConfig({
  plugins: [vue()],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: {
    outDir: 'target/classes/static',
    emptyOutDir: true,
    chunkSizeWarningLimit: 1500,
    rolldownOptions: {
      output: {
        // what pages share in a few files: a hundred small ones are fetched one after the other
        codeSplitting: {
          groups: [
            {
              name: 'library',
              test: (id: string) => id.includes('node_modules') && !DRAWS.test(id),
              minShareCount: 2,
            },
            {
              name: 'common',
              test: (id: string) => id.includes('/src/') && !DRAWS.test(id),
              minShareCount: 2,
            },
            // what the first page has already stays there
            { name: 'chart', test: DRAWS, includeDependenciesRecursively: false },
          ],
        },
      },
    },
  },
  server: {
    // the documentation lies beside
    fs: { allow: ['..'] },
    proxy: { '/api': 'http://127.0.0.1:8321' },
  },
  test: { environment: 'happy-dom' },
})
