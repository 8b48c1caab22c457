// The committed types must be those of the committed description of the API.
import { execSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const folder = mkdtempSync(join(tmpdir(), 'jamjar-types-'))
const made = join(folder, 'schema.d.ts')
try {
  execSync(`node_modules/.bin/openapi-typescript ../server/openapi.json -o ${made}`, {
    stdio: 'pipe',
  })
  execSync(
    `node_modules/.bin/prettier --no-config --no-semi --single-quote --print-width 100 --write ${made}`,
    { stdio: 'pipe' },
  )
  if (readFileSync(made, 'utf8') !== readFileSync('src/api/schema.d.ts', 'utf8')) {
    console.error('src/api/schema.d.ts is not what server/openapi.json gives: npm run types')
    process.exitCode = 1
  }
} finally {
  rmSync(folder, { recursive: true })
}
