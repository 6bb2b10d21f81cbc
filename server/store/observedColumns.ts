import { sql } from 'drizzle-orm'
import type { $Type, NotNull } from 'drizzle-orm'
import { boolean, check, doublePrecision, integer, text } from 'drizzle-orm/pg-core'
import type {
  AnyPgColumn,
  PgBooleanBuilderInitial,
  PgDoublePrecisionBuilderInitial,
  PgIntegerBuilderInitial,
  PgTextBuilderInitial,
} from 'drizzle-orm/pg-core'
import { OBSERVED_KEYS, rowOf } from '../../core/throw/observed.ts'
import type { OBSERVED, ObservedKey, ObservedValue, SeenKey } from '../../core/throw/observed.ts'
import { GAMES, SHORT_KEYS, shortRowOf } from '../../core/throw/short.ts'
import type { SHORT_OBSERVED, ShortKey, ShortObserved } from '../../core/throw/short.ts'

/** Columns and checks of what can be observed of a throw, made from the core's tables. */

export const between = (column: AnyPgColumn, [low, high]: readonly [number, number]) =>
  sql`${column} between ${sql.raw(String(low))} and ${sql.raw(String(high))}`
export const isOneOf = (column: AnyPgColumn, values: readonly string[]) =>
  sql`${column} in (${sql.raw(values.map((v) => `'${v}'`).join(', '))})`

type Text = PgTextBuilderInitial<string, [string, ...string[]]>
type BuilderOf<R, V> = R extends { kind: 'figure' }
  ? PgDoublePrecisionBuilderInitial<string>
  : R extends { kind: 'count' }
    ? PgIntegerBuilderInitial<string>
    : R extends { kind: 'truth' }
      ? PgBooleanBuilderInitial<string>
      : $Type<Text, V>

type ObservedColumns = {
  [K in ObservedKey]: K extends SeenKey
    ? BuilderOf<(typeof OBSERVED)[K], ObservedValue<K>>
    : NotNull<BuilderOf<(typeof OBSERVED)[K], ObservedValue<K>>>
}
type ShortColumns = { [K in ShortKey]: BuilderOf<(typeof SHORT_OBSERVED)[K], NonNullable<ShortObserved[K]>> }

const MADE = {
  figure: (name: string) => doublePrecision(name),
  count: (name: string) => integer(name),
  truth: (name: string) => boolean(name),
  choice: (name: string) => text(name),
  text: (name: string) => text(name),
}
const built = (column: string, kind: keyof typeof MADE) => MADE[kind](column)

export const observedColumns = (): ObservedColumns =>
  Object.fromEntries(
    OBSERVED_KEYS.map((key) => {
      const row = rowOf(key)
      const column = built(row.column, row.kind)
      return [key, row.need === 'always' ? column.notNull() : column]
    }),
  ) as unknown as ObservedColumns

export const shortColumns = (): ShortColumns =>
  Object.fromEntries(
    SHORT_KEYS.map((key) => {
      const row = shortRowOf(key)
      return [key, built(row.column, row.kind)]
    }),
  ) as unknown as ShortColumns

type Checked = ReturnType<typeof rowOf> | ReturnType<typeof shortRowOf>
/** What a column may hold; nothing where anything will do. */
function checksOf(table: string, column: AnyPgColumn, row: Checked) {
  const name = `${table}_${row.column}`
  if (row.kind === 'figure' || row.kind === 'count') return [check(name, between(column, row.range))]
  if (row.kind === 'choice') return [check(name, isOneOf(column, row.choices))]
  return []
}

export const observedChecks = (t: { readonly [K in ObservedKey]: AnyPgColumn }) => [
  ...OBSERVED_KEYS.flatMap((key) => checksOf('throws', t[key], rowOf(key))),
  check('throws_mid', sql`(${t.midDownM} is null) = (${t.midRightM} is null)`),
  check('throws_mid_short_of_landing', sql`${t.midDownM} is null or ${t.midDownM} < ${t.carryM}`),
]

export const shortChecks = (t: { readonly [K in ShortKey]: AnyPgColumn }, game: AnyPgColumn) => [
  ...SHORT_KEYS.flatMap((key) => checksOf('short_throws', t[key], shortRowOf(key))),
  check(
    'short_throws_whole',
    sql`case ${game} ${sql.join(
      GAMES.map(
        (g) =>
          sql`when ${sql.raw(`'${g}'`)} then ${sql.join(
            SHORT_KEYS.filter((k) => shortRowOf(k).needed.includes(g)).map((k) => sql`${t[k]} is not null`),
            sql` and `,
          )}`,
      ),
      sql` `,
    )} end`,
  ),
]
