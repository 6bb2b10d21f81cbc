// A thread starts from its bundle where there are bundles, see scripts/bundles.mjs; else it brings the loader along that reads TypeScript.
import path from 'node:path'
import { pathToFileURL } from 'node:url'

/** @param {string} name which thread */
export async function start(name) {
  const bundles = process.env['VEER_THREADS']
  if (bundles) return await import(pathToFileURL(path.join(bundles, `${name}.worker.mjs`)).href)
  const { register } = await import('tsx/esm/api')
  register()
  return await import(`./${name}.worker.ts`)
}
