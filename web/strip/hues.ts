/** Hues of discs, fixed and told apart by colour-blind eyes; always with a name or code beside them. */
const HUES = 8

/** How a disc is drawn: its hue, and beyond the number of hues a pattern besides. */
export type Look = number

/** The number a code ends in; of one without a number, one that follows from its letters. */
function numberOf(code: string): number {
  const digits = code.match(/(\d{1,6})\D*$/)?.[1]
  return digits === undefined
    ? [...code].reduce((n, c) => (31 * n + c.charCodeAt(0)) % 99_991, 7)
    : Number(digits)
}

/** How a disc is drawn where nothing is beside it: codes that follow one another have hues of their own, nine in a row hardly meet. */
export function lookOf(code: string): Look {
  const n = numberOf(code)
  return (n + Math.floor(n / HUES)) % HUES
}

/**
 * How discs are drawn that are shown together. A disc keeps its hue wherever it is shown; those that share one differ by their
 * pattern, in the order of their codes.
 *
 * @returns by code; a code that is none of them is drawn as if it were alone
 */
export function looksOf(codes: readonly string[]): (code: string) => Look {
  const looks = new Map<string, Look>()
  const used = new Map<Look, number>()
  for (const code of [...new Set(codes)].sort()) {
    const alone = lookOf(code)
    const before = used.get(alone) ?? 0
    used.set(alone, before + 1)
    looks.set(code, alone + HUES * before)
  }
  return (code) => looks.get(code) ?? lookOf(code)
}

/** CSS colour of a look; the themes define the hues. */
export const hueOf = (look: Look): string => `var(--hue-${((look % HUES) + HUES) % HUES})`

/** Lines of flights of one hue, as they are dashed: the first is whole. */
const DASHES = [undefined, '10 5', '3 5'] as const
export const patternOf = (look: Look): number => Math.floor(look / HUES)
export const dashesOf = (look: Look): string | undefined => DASHES[patternOf(look) % DASHES.length]

/** The same by the ids of the discs of a trial. */
export function looksById(
  discs: readonly { readonly disc: { readonly id: string; readonly code: string } }[],
): (id: string) => Look {
  const look = looksOf(discs.map((d) => d.disc.code))
  const codes = new Map(discs.map((d) => [d.disc.id, d.disc.code]))
  return (id) => look(codes.get(id) ?? '')
}
