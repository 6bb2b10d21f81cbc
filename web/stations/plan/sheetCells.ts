import { writtenNumber } from '../../../core/formats/csvCells.ts'

/** A distance as it was pencilled: “81.5”, with a comma or a point; undefined where it reads as nothing. */
export function readDistance(text: string): number | undefined {
  const value = writtenNumber(text.trim().replace(',', '.'))
  return value !== undefined && value > 0 ? value : undefined
}

/**
 * A wind as it was pencilled, into the face of whoever throws: “3”, “2,5”, “-3” from behind; null where nothing is, undefined where
 * it reads as nothing.
 */
export function readWind(text: string): number | null | undefined {
  const plain = text.trim().replace(',', '.').replace('\u2212', '-')
  return plain === '' ? null : writtenNumber(plain)
}

/**
 * A distance off the line as it was pencilled, to the right: “4 L”, “l4”, “2.5r”, “-3”, “0”. A bare number other than 0
 * says no side and reads as nothing.
 */
export function readSide(text: string): number | undefined {
  const plain = text.trim().toLowerCase().replace(',', '.').replace('\u2212', '-')
  const match = /^([lr]?)\s*([+-]?)(\d+\.?\d*|\.\d+)\s*([lr]?)$/.exec(plain)
  if (!match) return undefined
  const [, before, sign, digits, after] = match as unknown as [string, string, string, string, string]
  const value = Number(digits)
  if (value === 0) return 0
  if (before !== '' && after !== '') return undefined
  const side = before + after
  if (side !== '' && sign !== '') return undefined
  if (side === 'l' || sign === '-') return -value
  if (side === 'r' || sign === '+') return value
  return undefined
}
