/**
 * Does something once for an id: a screen that bounces asks for it twice within milliseconds. What failed may be asked for again.
 *
 * @returns whether it was done now
 */
export function onceAnId(): (id: string, what: () => Promise<void>) => Promise<boolean> {
  const begun = new Set<string>()
  return async (id, what) => {
    if (begun.has(id)) return false
    begun.add(id)
    try {
      await what()
      return true
    } catch (e) {
      begun.delete(id)
      throw e
    }
  }
}
