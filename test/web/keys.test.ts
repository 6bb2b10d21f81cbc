import { expect } from 'chai'
import fs from 'node:fs'
import path from 'node:path'
import type { BoundKey, KeyTable } from '../../web/parts/keys.ts'
import { EVERYWHERE } from '../../web/shell/keys.ts'
import { DRILL_KEYS } from '../../web/stations/drill/keys.ts'
import { FIELD_KEYS, SHORT_GAME_KEYS } from '../../web/stations/field/keys.ts'
import { LAB_KEYS } from '../../web/stations/lab/keys.ts'

const WEB = path.resolve(import.meta.dirname, '../../web')
const TABLES: Readonly<Record<string, KeyTable>> = {
  DRILL_KEYS,
  EVERYWHERE,
  FIELD_KEYS,
  LAB_KEYS,
  SHORT_GAME_KEYS,
}
/** Everything the pages are written in, but the tables themselves. */
const source = fs
  .readdirSync(WEB, { recursive: true, encoding: 'utf8' })
  .filter((f) => /\.tsx?$/.test(f) && path.basename(f) !== 'keys.ts')
  .map((f) => fs.readFileSync(path.join(WEB, f), 'utf8'))
  .join('\n')
/** Keys that are handed to what binds them. */
const BOUND = /\b(?:useKey\(\s*|keyed=\{)([A-Z_]+)\.(\w+)/g

describe('keys', () => {
  it('that are listed are bound, and those that are bound are listed', () => {
    const bound = new Set([...source.matchAll(BOUND)].map(([, table, key]) => `${table}.${key}`))
    const listed = Object.entries(TABLES).flatMap(([table, keys]) =>
      Object.keys(keys).map((key) => `${table}.${key}`),
    )
    expect([...bound].sort()).deep.equal(listed.sort())
  })

  it('do one thing each where they are pressed', () => {
    for (const [name, keys] of Object.entries(TABLES)) {
      const everywhere = name === 'EVERYWHERE' ? [] : Object.values<BoundKey>(EVERYWHERE)
      const pressed = [...Object.values(keys), ...everywhere].flatMap(({ press }) => press)
      expect(pressed, name).deep.equal([...new Set(pressed)])
    }
  })

  it('are listed by the station that has them', () => {
    const has = { drill: ['DRILL_KEYS'], field: ['FIELD_KEYS', 'SHORT_GAME_KEYS'], lab: ['LAB_KEYS'] }
    for (const [station, tables] of Object.entries(has)) {
      const door = fs.readFileSync(path.join(WEB, 'stations', station, 'station.ts'), 'utf8')
      for (const table of tables) expect(door).contain(`Object.values(${table})`)
    }
  })
})
