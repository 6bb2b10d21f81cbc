import { storable } from './csvCells.ts'

/** How deep a JSON text may be nested, and how many values it may hold: several times what anything here sends. */
export const JSON_LIMIT: { readonly depth: number; readonly values: number } = { depth: 128, values: 400_000 }

/** What is wrong with a JSON text, in a sentence. */
export class BadJson extends Error {}

const [QUOTE, BACKSLASH, COMMA] = [34, 92, 44]
const OPEN = new Set([91, 123])
const CLOSE = new Set([93, 125])

/**
 * Reads a JSON text whose depth and number of values are bounded before anything is made of it, in time that grows with its
 * length alone: nothing here calls itself.
 *
 * @throws BadJson where it is none, is nested too deep, or holds too many values
 */
export function boundedJson(text: string, { depth, values } = JSON_LIMIT): unknown {
  let deep = 0
  let count = 1
  let inText = false
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i)
    if (inText) {
      if (c === BACKSLASH) i++
      else if (c === QUOTE) inText = false
    } else if (c === QUOTE) inText = true
    else if (OPEN.has(c)) {
      if (++deep > depth) throw new BadJson(`It is nested more than ${depth} deep.`)
      count++
    } else if (CLOSE.has(c)) deep--
    else if (c === COMMA) count++
    if (count > values) throw new BadJson(`It holds more than ${values.toLocaleString('en')} values.`)
  }
  try {
    return JSON.parse(text)
  } catch (e) {
    throw new BadJson((e as Error).message)
  }
}

/**
 * Where a value holds a text that no database holds, as the names that lead there; undefined where it holds none. Whatever its
 * depth, nothing here calls itself.
 */
export function unstorableAt(value: unknown): readonly string[] | undefined {
  const left: Place[] = [{ value, name: '', above: undefined }]
  for (let next = left.pop(); next; next = left.pop()) {
    const { value: at } = next
    if (typeof at === 'string') {
      if (!storable(at)) return pathTo(next)
    } else if (typeof at === 'object' && at !== null)
      for (const [name, part] of Object.entries(at)) {
        if (!storable(name)) return pathTo(next)
        left.push({ value: part, name, above: next })
      }
  }
  return undefined
}

interface Place {
  readonly value: unknown
  readonly name: string
  readonly above: Place | undefined
}
function pathTo(place: Place): string[] {
  const path: string[] = []
  for (let at = place; at.above; at = at.above) path.push(at.name)
  return path.reverse()
}
