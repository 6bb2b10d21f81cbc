/** A row on its way to the server. */
export interface Row {
  readonly id: string
  /** What an edit was made from, where the server counts versions. */
  readonly version?: number
}
