import { z } from 'zod'
import { ADDRESSES, API, isMedia } from './api.ts'
import type { Address, Media, Route } from './api.ts'
import { PROBLEM_BASE, PROBLEM_TYPES } from './problems.ts'
import { ACCEPTED_WIRES, WIRE, WIRE_HEADER } from './writes.ts'

/** Of a JSON schema what is told of it. */
interface Shape {
  readonly type?: string
  readonly properties?: Readonly<Record<string, unknown>>
  readonly required?: readonly string[]
  readonly items?: Shape
  readonly anyOf?: readonly Shape[]
  readonly oneOf?: readonly Shape[]
}

/** A schema's fields by name, those that may be missing with a question mark; a list in brackets. */
function shapeWords(it: z.ZodType | Media, io: 'input' | 'output'): string {
  if (isMedia(it)) return it.media.map((m) => `\`${m}\``).join(', ')
  const words = ({ type, properties, required = [], items, anyOf, oneOf }: Shape): string => {
    if (items) return `[${words(items)}]`
    if (properties)
      return Object.keys(properties)
        .map((name) => `${name}${required.includes(name) ? '' : '?'}`)
        .join(', ')
    const choice = anyOf ?? oneOf
    if (choice) return [...new Set(choice.map(words))].join(' or ')
    return type ?? 'anything'
  }
  return words(z.toJSONSchema(it, { io, unrepresentable: 'any' }) as Shape)
}

function rowOf(address: Address): string {
  const route: Route = API[address]
  const asked = [
    ...(route.query ? [`?${shapeWords(route.query, 'input')}`] : []),
    ...(route.body ? [shapeWords(route.body, 'input')] : []),
  ].join('; ')
  return `| \`${address}\` | ${route.who} | ${route.says} | ${asked || '–'} | ${shapeWords(route.answers, 'output')} |`
}

/** The contract as a page to read. */
export function apiPage(): string {
  return `# The server’s routes

Made by \`npm run api\` from \`contract/api.ts\`, of which the server makes its parsing and its guard, and \`GET /api/openapi.json\` (OpenAPI 3.1)
its schemas. The server of a machine listens on loopback; others come in with a key (see [crew](crew.md)).

Every answer names its version of the wire in \`${WIRE_HEADER}\` (${WIRE}; ${ACCEPTED_WIRES.join(' and ')} are taken). Rows are put at an address of their own with an id the
client makes, so that a write sent twice is one write. Fields that may be missing have a question mark.

What is wrong is said as \`application/problem+json\` (RFC 9457) with a \`type\` that does not change:

| status | type |
| --- | --- |
${Object.entries(PROBLEM_TYPES)
  .map(([status, type]) => `| ${status} | \`${PROBLEM_BASE}${type}\` |`)
  .join('\n')}

| route | who | what | is sent | answers |
| --- | --- | --- | --- | --- |
${ADDRESSES.map(rowOf).join('\n')}
`
}
