import { bundleWorkers } from '../../scripts/bundles.mjs'
import { stopCluster } from './server.ts'

// threads start as they do where the app is used
before(async () => void (process.env['VEER_THREADS'] = await bundleWorkers()))
after(async () => stopCluster())
