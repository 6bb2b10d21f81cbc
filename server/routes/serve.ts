import type Router from '@koa/router'
import { API, isMedia } from '../../contract/api.ts'
import type { Address, AnswerOf, AskedOf, Route } from '../../contract/api.ts'
import { Id } from '../../contract/shelf.ts'
import { parse, Refusal } from '../middleware/problems.ts'
import { inToday } from '../middleware/wire.ts'
import type { Ctx } from './router.ts'

/** JSON that is written out already. */
export class JsonText {
  constructor(readonly text: string) {}
}

/** The same, where nothing of it is going to be changed. */
type Told<T> = T extends readonly (infer E)[]
  ? readonly Told<E>[]
  : T extends object
    ? { readonly [K in keyof T]: Told<T[K]> }
    : T

/** What a route does: it is given what was asked, parsed, and answers; a file or a stream it puts into the context itself. */
type Handle<A extends Address> = (
  asked: AskedOf<A>,
  ctx: Ctx,
) => Told<AnswerOf<A>> | JsonText | Promise<Told<AnswerOf<A>> | JsonText>

/** Adds routes of the contract to a router: what is asked is parsed as the contract says, whoever handles it sees nothing else. */
export type Serve = <A extends Address>(address: A, handle: Handle<A>) => void

/** Names in addresses that are no ids. */
const FREE = new Set(['name', 'token'])

/** Told every answer before it is sent, where somebody wants to know whether it is what the contract says. */
export type OnAnswer = (address: Address, answer: unknown) => void

export const serving =
  (router: Router, answered?: OnAnswer): Serve =>
  (address, handle) => {
    const { query, body, answers }: Route = API[address]
    const [method, path] = address.split(' ') as [string, string]
    router.register(path, [method.toLowerCase()], async (ctx: Ctx) => {
      if (body && isMedia(body) && !ctx.is([...body.media]))
        throw new Refusal(415, 'Unknown kind of content', `Send it as ${body.media.join(' or ')}.`)
      const params = Object.fromEntries(
        Object.entries(ctx.params).map(([name, v]) => [name, FREE.has(name) ? v : parse(Id, v)]),
      )
      const asked = {
        params,
        query: query && parse(query, { ...ctx.query }),
        // what is missing altogether is missing field by field
        body: body && !isMedia(body) ? parse(body, inToday(ctx, ctx.request.body ?? {})) : undefined,
      }
      const answer = await handle(asked as never, ctx)
      if (isMedia(answers)) return
      answered?.(address, answer instanceof JsonText ? JSON.parse(answer.text) : answer)
      if (answer instanceof JsonText) {
        ctx.type = 'json'
        ctx.body = answer.text
      } else ctx.body = answer
    })
  }
