/** What is stored does not allow a write; nothing of it was stored. */
export class Conflict extends Error {
  constructor(
    /** In two words. */
    readonly title: string,
    detail: string,
    /** The row that is stored instead, where there is one. */
    readonly stored?: Readonly<Record<string, unknown>>,
    /** The fields that do not fit. */
    readonly errors: readonly { readonly path: string; readonly message: string }[] = [],
  ) {
    super(detail)
  }
}
