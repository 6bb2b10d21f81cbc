import { stopCluster } from './server.ts'

after(async () => stopCluster())
