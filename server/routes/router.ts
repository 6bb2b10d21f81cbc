import type { ParameterizedContext } from 'koa'

/** A request with a parsed body and the address's parameters. */
export type Ctx = ParameterizedContext & { request: { body?: unknown }; params: Record<string, string> }

/** What a file of something is called that has a name. */
export const fileName = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]+/g, '-')

/** A body that is a text, as it was sent; empty where nothing was. */
export const plainText = ({ request: { body } }: Ctx): string => (typeof body === 'string' ? body : '')
