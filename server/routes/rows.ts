import type Router from '@koa/router'
import type { z } from 'zod'
import { parse, Refusal } from '../middleware/problems.ts'
import type { Ctx } from './router.ts'

/** Parses a row and checks that it is the one the address names. */
export function rowAt<T extends { id: string }>(schema: z.ZodType<T>, ctx: Ctx): T {
  const row = parse(schema, ctx.request.body)
  if (row.id !== ctx.params['id'])
    throw new Refusal(
      422,
      'Some fields are not right',
      `id is ${row.id}, but the address names ${ctx.params['id']}.`,
      [{ path: 'id', message: 'must be the id the address names' }],
    )
  return row
}

/** Addresses rows of one kind: `PUT /api/KIND/:id` parses a row, stores it and answers with it. */
export const rowsOf =
  (router: Router) =>
  <T extends { id: string }>(
    kind: string,
    schema: z.ZodType<T>,
    write: (row: T) => PromiseLike<unknown>,
  ): void => {
    router.put(`/api/${kind}/:id`, async (ctx: Ctx) => {
      const row = rowAt(schema, ctx)
      await write(row)
      ctx.body = row
    })
  }
