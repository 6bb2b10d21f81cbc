export interface Cluster {
  readonly pid: number
  readonly port: number
  readonly exited: Promise<unknown>
  readonly url: (database?: string) => string
  readonly stop: (signal?: NodeJS.Signals) => Promise<void>
}
export function findBin(): string
export function clusterFolder(wanted: string): { folder: string; moved: boolean }
export function startPostgres(
  folder: string,
  options?: { fast?: boolean; timeoutMs?: number; database?: string; port?: number },
): Promise<Cluster>
