import { z } from 'zod'
import { ADDRESSES, API, isMedia } from './api.ts'
import type { Address, Media, Route } from './api.ts'
import { KEY_COOKIE } from './crew.ts'
import { Problem, PROBLEM_TYPES } from './problems.ts'
import { WIRE, WIRE_HEADER } from './writes.ts'

type Json = Readonly<Record<string, unknown>>

/** Where a schema is used: as it is sent, or as it comes back; a value that is filled in is missing only in the one. */
type Way = 'input' | 'output'

const DEFINED = '#/$defs/'
const COMPONENT = '#/components/schemas/'

/** Schemas of a document; what stands in one by reference, as what holds itself must, stands among its components. */
class Schemas {
  readonly components: Record<string, unknown> = {}

  of(schema: z.ZodType, io: Way): Json {
    // what is only checked by code is anything here; the words of the check stand in the refusal
    const { $schema: _, $defs, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: 'any' })
    if (!$defs) return rest
    const names = new Map(
      Object.keys($defs).map((name, i) => [name, `S${Object.keys(this.components).length + i + 1}`]),
    )
    const placed = (part: unknown): unknown =>
      JSON.parse(JSON.stringify(part), (key, value: unknown) =>
        key === '$ref' && typeof value === 'string' && value.startsWith(DEFINED)
          ? COMPONENT + names.get(value.slice(DEFINED.length))!
          : value,
      )
    for (const [name, part] of Object.entries($defs)) this.components[names.get(name)!] = placed(part)
    return placed(rest) as Json
  }
}

const contentOf = (schemas: Schemas, it: z.ZodType | Media, io: Way): Json =>
  isMedia(it)
    ? Object.fromEntries(
        it.media.map((type) => [
          type,
          {
            schema: {
              type: 'string',
              ...(it.events && {
                description: 'Server-sent events.',
                contentMediaType: 'application/json',
                contentSchema: schemas.of(it.events, 'output'),
              }),
            },
          },
        ]),
      )
    : { 'application/json': { schema: schemas.of(it, io) } }

/** An address with its names in braces, as the standard has it. */
const templated = (path: string): string => path.replace(/:(\w+)/g, '{$1}')

const namesOf = (path: string): string[] => [...path.matchAll(/:(\w+)/g)].map(([, name]) => name!)

function parametersOf(schemas: Schemas, path: string, { query }: Route): Json[] {
  const inPath = namesOf(path).map((name) => ({
    in: 'path',
    name,
    required: true,
    schema: name === 'id' ? { type: 'string', format: 'uuid' } : { type: 'string' },
  }))
  const asked = query === undefined ? {} : schemas.of(query, 'input')
  const needed = new Set((asked['required'] as string[] | undefined) ?? [])
  const inQuery = Object.entries((asked['properties'] ?? {}) as Record<string, Json>).map(
    ([name, schema]) => ({ in: 'query', name, required: needed.has(name), schema }),
  )
  return [...inPath, ...inQuery]
}

function operationOf(schemas: Schemas, address: Address): Json {
  const route: Route = API[address]
  const [, path] = address.split(' ') as [string, string]
  const parameters = parametersOf(schemas, path, route)
  return {
    operationId: operationId(address),
    tags: [path.split('/')[path.startsWith('/api/') ? 2 : 1]!],
    summary: route.says,
    description: route.who === 'anyone' ? 'Anyone may ask.' : `Needs a ${route.who}.`,
    security: route.who === 'anyone' ? [{}] : [{ key: [] }],
    ...(parameters.length > 0 && { parameters }),
    ...(route.body && { requestBody: { required: true, content: contentOf(schemas, route.body, 'input') } }),
    responses: {
      200: { description: 'Done.', content: contentOf(schemas, route.answers, 'output') },
      default: { $ref: '#/components/responses/Problem' },
    },
  }
}

/** A name for what a route does: `put-trials-id-hand`. */
const operationId = (address: string): string =>
  address
    .toLowerCase()
    .replace(/\/api\//, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')

/**
 * The contract as an OpenAPI 3.1 document.
 *
 * @see https://spec.openapis.org/oas/v3.1.1
 */
export const openApi = (): Json & { readonly openapi: string } => (made ??= document())
let made: ReturnType<typeof document> | undefined

function document(): Json & { readonly openapi: string } {
  const schemas = new Schemas()
  const paths: Record<string, Record<string, Json>> = {}
  for (const address of ADDRESSES) {
    const [method, path] = address.split(' ') as [string, string]
    ;(paths[templated(path)] ??= {})[method.toLowerCase()] = operationOf(schemas, address)
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Veer Line',
      version: String(WIRE),
      description: `Every request may name the version it speaks in ${WIRE_HEADER}; every answer does.`,
    },
    servers: [{ url: '/' }],
    paths,
    components: {
      schemas: schemas.components,
      securitySchemes: {
        key: { type: 'apiKey', in: 'cookie', name: KEY_COOKIE },
      },
      responses: {
        Problem: {
          description: `What was wrong; nothing was stored. Kinds: ${Object.values(PROBLEM_TYPES).join(', ')}.`,
          content: { 'application/problem+json': { schema: schemas.of(Problem, 'output') } },
        },
      },
    },
  }
}
