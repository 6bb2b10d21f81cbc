import { wrap } from 'comlink'
import type { PathRead } from '../../core/formats/pathCsv.ts'
import type { PathWorker } from './path.worker.ts'

/** Reads a recorded path from a file, off the interface thread; see `readPathFile`. */
export async function readPathAway(
  name: string,
  text: string,
  bearingDeg: number | undefined,
): Promise<PathRead> {
  const worker = new Worker(new URL('./path.worker.ts', import.meta.url), { type: 'module' })
  try {
    const died = new Promise<never>((_, reject) => {
      worker.addEventListener('error', (e) =>
        reject(new Error(`The file could not be read: ${e.message || 'its reader could not be loaded'}.`)),
      )
    })
    return await Promise.race([wrap<PathWorker>(worker).read(name, text, bearingDeg), died])
  } finally {
    worker.terminate()
  }
}
