// The threads of the server as one file each, so that starting one takes a tenth of a second: read from TypeScript, a thread would
// load some hundred files through a loader of its own.
import { createHash } from 'node:crypto'
import fs from 'node:fs'
import path from 'node:path'
import { pathToFileURL } from 'node:url'
import { build } from 'esbuild'

const ROOT = path.join(import.meta.dirname, '..')
const CACHE = path.join(ROOT, 'node_modules', '.cache', 'veer-line')
const WORK = path.join(ROOT, 'server', 'work')
/** Bundles nobody has used for so long are thrown away, ms. */
const OLD_MS = 86_400_000

/** What stands for everything that may be in a bundle. */
function digest() {
  const hash = createHash('sha1')
    .update(fs.readFileSync(path.join(ROOT, 'package-lock.json')))
    .update(ROOT)
  for (const folder of ['core', 'contract', 'server'])
    for (const name of fs.readdirSync(path.join(ROOT, folder), { recursive: true }).sort())
      if (name.endsWith('.ts')) hash.update(name).update(fs.readFileSync(path.join(ROOT, folder, name)))
  return hash.digest('hex')
}

/** A file of the project still is where it is, for whatever it looks for beside itself. */
const whereItIs = {
  name: 'where it is',
  setup: ({ onLoad }) =>
    onLoad({ filter: /[\\/](core|contract|server)[\\/].*\.ts$/ }, ({ path: file }) => ({
      loader: 'ts',
      contents: fs
        .readFileSync(file, 'utf8')
        .replaceAll('import.meta.dirname', JSON.stringify(path.dirname(file)))
        .replaceAll('import.meta.url', JSON.stringify(pathToFileURL(file).href)),
    })),
}

/** Bundles every thread, where that is not done. @returns the folder they are in */
export async function bundleWorkers() {
  const folder = path.join(CACHE, `threads-${digest()}`)
  if (fs.existsSync(folder)) {
    fs.utimesSync(folder, new Date(), new Date())
    return folder
  }
  const making = `${folder}.${process.pid}`
  await build({
    entryPoints: fs
      .readdirSync(WORK)
      .filter((f) => f.endsWith('.worker.ts'))
      .map((f) => path.join(WORK, f)),
    outdir: making,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    outExtension: { '.js': '.mjs' },
    // what reads files of its own, or is not made of modules, stays a package
    external: ['pg', 'pg-native'],
    banner: {
      js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);",
    },
    plugins: [whereItIs],
    logLevel: 'error',
  })
  for (const name of fs.readdirSync(CACHE)) {
    const old = path.join(CACHE, name)
    if (old !== making && Date.now() - fs.statSync(old).mtimeMs > OLD_MS)
      fs.rmSync(old, { recursive: true, force: true })
  }
  try {
    fs.renameSync(making, folder)
  } catch (e) {
    // another process was as fast
    if (!fs.existsSync(folder)) throw e
    fs.rmSync(making, { recursive: true, force: true })
  }
  return folder
}
