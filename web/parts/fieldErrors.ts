import type { FieldPath, FieldValues, UseFormSetError } from 'react-hook-form'
import { ApiProblem } from '../data/api.ts'

/**
 * Puts what the server says against fields of a form beside them.
 *
 * @param fields those that show it
 * @returns whether something was said of one of them
 */
export function toFields<T extends FieldValues>(
  error: unknown,
  fields: readonly FieldPath<T>[],
  setError: UseFormSetError<T>,
): boolean {
  const named = error instanceof ApiProblem ? (error.problem.errors ?? []) : []
  const said = fields.flatMap((field) => {
    const found = named.find((e) => e.path === field)
    return found ? [[field, found.message] as const] : []
  })
  for (const [field, message] of said) setError(field, { message })
  return said.length > 0
}
