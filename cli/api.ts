// npm run api: writes the contract as a page to docs/api.md.
import fs from 'node:fs'
import path from 'node:path'
import { apiPage } from '../contract/apiPage.ts'

const file = path.resolve(import.meta.dirname, '../docs/api.md')
fs.writeFileSync(file, apiPage())
process.stderr.write(`${file}\n`)
