import { useState } from 'react'
import type { z } from 'zod'

function stored<T>(key: string, of: string, schema: z.ZodType<T>, nothing: T): T {
  try {
    const [whose, value] = JSON.parse(localStorage.getItem(key) ?? '') as [string, unknown]
    return whose === of ? schema.parse(value) : nothing
  } catch {
    return nothing
  }
}

/**
 * Something small that this device keeps over a reload, for one thing at a time.
 *
 * @param of what it is about; of anything else nothing is kept
 */
export function useKept<T>(key: string, of: string, schema: z.ZodType<T>, nothing: T) {
  const [value, setValue] = useState(() => stored(key, of, schema, nothing))
  const keep = (next: T): void => {
    localStorage.setItem(key, JSON.stringify([of, next]))
    setValue(next)
  }
  return [value, keep] as const
}
