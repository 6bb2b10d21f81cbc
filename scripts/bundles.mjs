// Threads of the server and programs as one file each, so that starting one takes a tenth of a second: read from TypeScript, each
// would load some hundred files through a loader of its own.
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

/** Where the sources of programs are. */
const SOURCES = ['core', 'contract', 'server', 'demo', 'cli', path.join('test', 'api')]

/** What stands for everything that may be in a bundle. */
function digest(folders) {
  const hash = createHash('sha1')
    .update(fs.readFileSync(path.join(ROOT, 'package-lock.json')))
    .update(ROOT)
  for (const folder of folders)
    for (const name of fs.readdirSync(path.join(ROOT, folder), { recursive: true }).sort())
      if (name.endsWith('.ts')) hash.update(name).update(fs.readFileSync(path.join(ROOT, folder, name)))
  return hash.digest('hex')
}

/** A file of the project still is where it is, for whatever it looks for beside itself. */
const whereItIs = {
  name: 'where it is',
  setup: ({ onLoad }) =>
    onLoad({ filter: /[\\/](core|contract|server|demo|cli|test)[\\/].*\.ts$/ }, ({ path: file }) => ({
      loader: 'ts',
      contents: fs
        .readFileSync(file, 'utf8')
        .replaceAll('import.meta.dirname', JSON.stringify(path.dirname(file)))
        .replaceAll('import.meta.url', JSON.stringify(pathToFileURL(file).href)),
    })),
}

/** Bundles files, where that is not done. @returns the folder they are in */
async function bundled(what, entryPoints, folders) {
  const folder = path.join(CACHE, `${what}-${digest(folders)}`)
  if (fs.existsSync(folder)) {
    fs.utimesSync(folder, new Date(), new Date())
    return folder
  }
  const making = `${folder}.${process.pid}`
  await build({
    entryPoints,
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

/** Bundles every thread of the server. @returns the folder they are in */
export const bundleWorkers = () =>
  bundled(
    'threads',
    fs
      .readdirSync(WORK)
      .filter((f) => f.endsWith('.worker.ts'))
      .map((f) => path.join(WORK, f)),
    ['core', 'contract', 'server'],
  )

/** Bundles a program. @param file its TypeScript, from the root of the project @returns what Node runs */
export async function bundleProgram(file) {
  const name = path.basename(file, '.ts')
  const folder = await bundled(file.replaceAll(/[\\/.]/g, '-'), [path.join(ROOT, file)], SOURCES)
  return path.join(folder, `${name}.mjs`)
}
