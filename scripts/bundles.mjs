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
const SOURCES = ['core', 'contract', 'server', 'demo', 'cli', 'test']
/** Where the tests of what needs no server are. */
const UNIT = ['core', 'web'].map((folder) => path.join('test', folder))

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

/** A file of the project still is where it is, for whatever it looks for beside itself; what is run as it stands is not bundled. */
const whereItIs = {
  name: 'where it is',
  setup({ onLoad, onResolve }) {
    onResolve({ filter: /[\\/]scripts[\\/][^\\/]+\.mjs$/ }, ({ path: named, resolveDir }) => ({
      path: pathToFileURL(path.resolve(resolveDir, named)).href,
      external: true,
    }))
    onLoad({ filter: /[\\/](core|contract|server|demo|cli|test)[\\/].*\.ts$/ }, ({ path: file }) => ({
      loader: 'ts',
      contents: fs
        .readFileSync(file, 'utf8')
        .replaceAll('import.meta.dirname', JSON.stringify(path.dirname(file)))
        .replaceAll('import.meta.url', JSON.stringify(pathToFileURL(file).href)),
    }))
  },
}

/**
 * Bundles files, where that is not done.
 *
 * @param options of the bundler, beside those of every bundle
 * @returns the folder they are in
 */
async function bundled(what, entryPoints, folders, options = {}) {
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
    ...options,
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

/**
 * Bundles what is about the project itself: a program that measures it, with the packages it uses as they are.
 *
 * @param file its TypeScript, from the root of the project
 * @returns what Node runs
 */
export async function bundleMeasure(file) {
  const source = path.join(ROOT, file)
  const folder = await bundled(file.replaceAll(/[\\/.]/g, '-'), [source], SOURCES, {
    packages: 'external',
    // it is the one that was called, which is how it knows that it is to run
    banner: { js: `process.argv[1] = ${JSON.stringify(source)};` },
  })
  return path.join(folder, `${path.basename(file, '.ts')}.mjs`)
}

/**
 * Bundles the tests that need no server, each with all it uses: read from TypeScript file by file they compute at a third of the pace,
 * since every name that crosses files is looked up anew each time.
 *
 * @param only files among them, from the root of the project; all where there are none
 * @returns what Mocha runs
 */
export async function bundleUnitTests(only = []) {
  const files = UNIT.flatMap((folder) =>
    fs
      .readdirSync(path.join(ROOT, folder), { recursive: true })
      .filter((name) => name.endsWith('.test.ts'))
      .map((name) => path.join(folder, name)),
  ).sort()
  const folder = await bundled(
    'unit-tests',
    files.map((file) => path.join(ROOT, file)),
    [...SOURCES, 'web'],
    { packages: 'external', outbase: path.join(ROOT, 'test'), sourcemap: 'linked', banner: {} },
  )
  const wanted = only.length === 0 ? files : only.map((file) => path.normalize(file))
  return wanted.map((file) => path.join(folder, `${path.relative('test', file).slice(0, -'.ts'.length)}.mjs`))
}
