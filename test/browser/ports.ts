/** Workers that run browser tests side by side, each with a server and a database of its own. */
export const WORKERS = 2
const FIRST = Number(process.env['VEER_TEST_PORT'] ?? 4469)

/** Where the app under test of a worker listens, and where it is told to begin anew. */
export const portOf = (worker: number): number => FIRST + 10 * worker
export const controlPortOf = (worker: number): number => portOf(worker) + 1
/** Where phones reach it, over HTTPS and HTTP, once they are let in. */
export const sharedHostOf = (worker: number): string => `127.0.0.${2 + worker}`
export const sharedPortsOf = (worker: number) => ({
  httpsPort: portOf(worker) + 2,
  httpPort: portOf(worker) + 3,
})
