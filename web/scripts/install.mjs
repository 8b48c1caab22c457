// Installs the front end's packages when the lock file has changed since the last time.
import { execSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'

const [major, minor] = process.versions.node.split('.').map(Number)
if (major < 20 || (major === 20 && minor < 19)) {
  console.error(`Node.js ${process.versions.node} is too old: 20.19 or newer is needed.`)
  process.exit(1)
}
const wanted = createHash('sha256').update(readFileSync('package-lock.json')).digest('hex')
const mark = 'node_modules/.jamjar-lock'
if (!existsSync(mark) || readFileSync(mark, 'utf8') !== wanted) {
  execSync('npm ci --no-audit --no-fund --loglevel=error', { stdio: 'inherit' })
  writeFileSync(mark, wanted)
}
