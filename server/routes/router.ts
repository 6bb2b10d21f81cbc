import type { ParameterizedContext } from 'koa'

/** A request with a parsed body and the address's parameters. */
export type Ctx = ParameterizedContext & { request: { body?: unknown }; params: Record<string, string> }
