/** A start that runs. */
export interface Running {
  readonly cluster: string
  readonly databasePort: number
}
export function urlOf(running: Running): string
