import { format } from 'date-fns'
import type { Middleware } from 'koa'
import { whoOf } from './who.ts'

interface Line {
  readonly at: string
  readonly method: string
  readonly path: string
  readonly status: number
  readonly ms: number
  /** Whoever asked, where they have come in. */
  readonly who?: string
}

/** One line a request: JSON for programs. */
const forPrograms = (line: Line) => JSON.stringify(line)

/** “14:03:11  PUT /api/throws/…  200  4 ms  Ida”: for whoever looks at the terminal; ids are cut short. */
const forPeople = ({ at, method, path, status, ms, who }: Line) =>
  [
    format(new Date(at), 'HH:mm:ss'),
    `${method} ${path.replace(/([0-9a-f]{8})-[0-9a-f-]{27}/g, '$1…')}`,
    status,
    `${Math.round(ms)} ms`,
    who,
  ]
    .filter((part) => part !== undefined)
    .join('  ')

/**
 * One line a request.
 *
 * @param readable for people, not for programs
 */
export const log =
  (
    readable: boolean,
    write: (line: string) => void = (line) => process.stdout.write(`${line}\n`),
  ): Middleware =>
  async (ctx, next) => {
    const start = performance.now()
    await next()
    const ms = Math.round(10 * (performance.now() - start)) / 10
    const { method, path, status } = ctx
    const who = whoOf(ctx)?.person.name
    write(
      (readable ? forPeople : forPrograms)({
        ...{ at: new Date().toISOString(), method, path, status, ms },
        ...(who !== undefined && { who }),
      }),
    )
  }
