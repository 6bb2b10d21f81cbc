// The code that travels inside an exported review, as one script.
import path from 'node:path'
import { build } from 'vite'

const ENTRY = path.join(import.meta.dirname, '..', 'web', 'reader', 'main.ts')

/** Bundles the reader’s panel with the flight code. */
export async function bundleReader() {
  const built = await build({
    configFile: false,
    logLevel: 'error',
    build: {
      write: false,
      target: 'es2022',
      minify: true,
      lib: { entry: ENTRY, formats: ['iife'], name: 'reader', fileName: 'reader' },
    },
  })
  const [{ output }] = Array.isArray(built) ? built : [built]
  return output[0].code
}

/** Gives the app the bundle as a text: `import code from 'virtual:reader'`. */
export const readerPlugin = () => ({
  name: 'reader',
  resolveId: (id) => (id === 'virtual:reader' ? '\0virtual:reader' : undefined),
  load: async (id) =>
    id === '\0virtual:reader' ? `export default ${JSON.stringify(await bundleReader())}` : undefined,
})
