import { z } from 'zod'
import type { TravellingColumn, TravellingTable } from '../store/tables.ts'

/** Of the package itself: raised when what stands in it is laid out otherwise. */
export const LAYOUT = 1
export const DESCRIPTION = 'datapackage.json'
/** A description is some hundred kB; more is none. */
export const LONGEST_DESCRIPTION = 50_000_000

const Sha256 = z.string().regex(/^sha256:[0-9a-f]{64}$/)
const Resource = z.object({
  name: z.string(),
  path: z.string(),
  bytes: z.int().min(0),
  hash: Sha256,
  /** Rows of a table, where it is one. */
  rows: z.int().min(0).optional(),
})
/** What a package says of itself, as far as it is read back: a Frictionless Data Package with what this product adds. */
export const Description = z.object({
  name: z.literal('veer-line', { error: 'is not a package of Veer Line' }),
  resources: z.array(Resource),
  veerLine: z.object({
    layout: z.int(),
    /** The last migration of the database it was made from. */
    migration: z.string(),
    kind: z.enum(['everything', 'trial']),
  }),
})
export type Description = z.infer<typeof Description>
export type Resource = z.infer<typeof Resource>

/** Table Schema’s words for what PostgreSQL calls a type. */
function fieldOf({ name, type, required }: TravellingColumn) {
  const constraints = required ? { constraints: { required: true } } : {}
  const typed = (): Record<string, string> => {
    if (type.endsWith('[]')) return { type: 'array' }
    switch (type) {
      case 'uuid':
        return { type: 'string', format: 'uuid' }
      case 'integer':
        return { type: 'integer' }
      case 'double precision':
        return { type: 'number' }
      case 'boolean':
        return { type: 'boolean' }
      case 'date':
        return { type: 'date' }
      case 'timestamp with time zone':
        return { type: 'datetime' }
      case 'jsonb':
        return { type: 'any' }
      case 'bytea':
        return { type: 'string', description: 'path of the file in this package' }
      default:
        return { type: 'string' }
    }
  }
  return { name, ...typed(), ...constraints }
}

/** A table's resource, as a Table Schema. */
export const describeTable = (table: TravellingTable, resource: Resource) => ({
  profile: 'tabular-data-resource',
  ...resource,
  format: 'csv',
  mediatype: 'text/csv',
  encoding: 'utf-8',
  schema: {
    fields: table.columns.map(fieldOf),
    primaryKey: table.primaryKey,
    foreignKeys: table.foreignKeys.map(({ fields, table: resourceName, of }) => ({
      fields,
      reference: { resource: resourceName, fields: of },
    })),
    missingValues: [''],
  },
})

/** The whole description, as it stands in the package. */
export const describePackage = (
  resources: readonly object[],
  made: { readonly at: string; readonly migration: string; readonly kind: Description['veerLine']['kind'] },
): string =>
  JSON.stringify(
    {
      profile: 'data-package',
      name: 'veer-line',
      title: 'Everything a Veer Line database holds of what was thrown and written',
      created: made.at,
      resources,
      veerLine: { layout: LAYOUT, migration: made.migration, kind: made.kind },
    },
    null,
    1,
  )
