import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { gzipSync } from 'node:zlib'
import vue from '@vitejs/plugin-vue'
import type { Plugin } from 'vite'
import { defineConfig } from 'vitest/config'

/** What draws, and what can't do without: not every page needs it. */
const DRAWS =
  /node_modules\/(echarts|zrender|tslib)\/|\/src\/(chart\/(BandChart|echarts|useDrawing)|now\/ChartCard|sessions\/PartCard|series\/ChartGrid)/

/** What has the rest fetched, and waits for none of it; the styles, lest they have all of the library fetched. */
const FIRST = /\/src\/(pages|api\/early|window\/picks)\.|vite\/preload-helper|\/theme-chalk\//

/** Lays each file down compressed too: the server need not do it each time. */
const compressed = (): Plugin => ({
  name: 'compressed',
  apply: 'build',
  writeBundle({ dir = '' }) {
    const assets = join(dir, 'assets')
    for (const name of readdirSync(assets).filter((n) => /\.(js|css)$/.test(n))) {
      const file = join(assets, name)
      writeFileSync(`${file}.gz`, gzipSync(readFileSync(file), { level: 9 }))
    }
  },
})

export default defineConfig({
  plugins: [vue(), compressed()],
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
            { name: 'first', test: FIRST, includeDependenciesRecursively: false },
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
