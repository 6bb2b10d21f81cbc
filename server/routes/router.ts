import type { ParameterizedContext } from 'koa'

/** A request with a parsed body and the address's parameters. */
export type Ctx = ParameterizedContext & { request: { body?: unknown }; params: Record<string, string> }

/** What a file of something is called that has a name. */
export const fileName = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]+/g, '-')

/** Answers with what is written out as JSON already. */
export function answerJson(ctx: Ctx, json: string): void {
  ctx.type = 'json'
  ctx.body = json
}
