import type { SheetThrow } from '../throw/sheetThrow.ts'

/** Which people stand by another name in what is handed out beside a review, because the review does not show theirs. */
export function aliasesOf(throwers: readonly string[], shown: string): ReadonlyMap<string, string> {
  const hidden = [...new Set(throwers)].filter((name) => !shown.includes(name))
  return new Map(hidden.map((name, i) => [name, `Thrower ${i + 1}`]))
}

/**
 * Throws as they are handed out beside a review: each is there with every figure, so that whoever rates them comes to the same
 * numbers; people whom the review does not name, and notes it does not show, are left out.
 *
 * @param shown everything the review shows, as text
 */
export function discreet(throws: readonly SheetThrow[], shown: string): SheetThrow[] {
  const aliases = aliasesOf(
    throws.map((t) => t.thrower),
    shown,
  )
  return throws.map((t) => {
    const { notes, ...rest } = t
    const kept = Object.entries(notes ?? {}).filter(
      ([, note]) => note.trim() !== '' && shown.includes(note.trim()),
    )
    return {
      ...rest,
      thrower: aliases.get(t.thrower) ?? t.thrower,
      ...(kept.length > 0 && { notes: Object.fromEntries(kept) }),
    }
  })
}

/** A text with every name that stands by another one replaced. */
export const withAliases = (text: string, aliases: ReadonlyMap<string, string>): string =>
  // longer names first: one may be a part of another
  [...aliases]
    .toSorted(([a], [b]) => b.length - a.length)
    .reduce((all, [name, alias]) => all.replaceAll(name, alias), text)
