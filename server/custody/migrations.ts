import fs from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { quoted } from '../store/tables.ts'

const FOLDER = fileURLToPath(new URL('../store/migrations', import.meta.url))
interface Journal {
  readonly entries: readonly { readonly idx: number; readonly tag: string }[]
}
const journal = (): Journal =>
  JSON.parse(fs.readFileSync(path.join(FOLDER, 'meta', '_journal.json'), 'utf8')) as Journal

/** Names of every migration, the oldest first. */
export const migrations = (): string[] => journal().entries.map((e) => e.tag)
export const lastMigration = (): string => migrations().at(-1)!

/** The statements of a migration, as they make tables in another schema than the public one. */
export const statementsIn = (tag: string, schema: string): string[] =>
  fs
    .readFileSync(path.join(FOLDER, `${tag}.sql`), 'utf8')
    .split('--> statement-breakpoint')
    .map((s) => s.trim().replaceAll('"public".', `${quoted(schema)}.`))
    .filter(Boolean)
