import type { Rows } from './write.ts'

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i

/**
 * The rows that make a trial whole somewhere else: its throws and outings, its discs with what above them they are of, what
 * was seen of them, and the names of whoever threw and logged.
 *
 * @throws Error where the id is none
 */
export function rowsOfTrial(id: string): Rows {
  if (!UUID.test(id)) throw new Error(`${id} is no id.`)
  const thrown = (key: string) =>
    `(select ${key} from throws where trial_id = '${id}' union select ${key} from short_throws where trial_id = '${id}')`
  const discs = `(select disc_id from trial_discs where trial_id = '${id}' union select control_disc_id from trials where id = '${id}' and control_disc_id is not null)`
  const plastics = `(select plastic_id from discs where id in ${discs})`
  const molds = `(select mold_id from plastics where id in ${plastics})`
  const sessions = thrown('session_id')
  const ofDisc = `disc_id in ${discs}`
  const ofTrial = `trial_id = '${id}'`
  const throwers = `(id in ${thrown('thrower_id')} or id in (select watcher_id from sessions where id in ${sessions}))`
  const places = `id in (select place_id from sessions where id in ${sessions})`
  /** Who wrote any of it, or with what. */
  const written = (key: string) =>
    [
      thrown(key),
      ...(
        [
          ['discs', `id in ${discs}`],
          ['inspections', ofDisc],
          ['throwers', throwers],
          ['places', places],
          ['sessions', `id in ${sessions}`],
          ['wind_logs', `session_id in ${sessions}`],
        ] as const
      ).map(([table, rows]) => `(select ${key} from ${table} where ${rows})`),
    ]
      .map((some) => `id in ${some}`)
      .join(' or ')
  const where: Readonly<Record<string, string>> = {
    people: written('by_person_id'),
    device_keys: written('by_key_id'),
    makers: `id in (select maker_id from molds where id in ${molds})`,
    molds: `id in ${molds}`,
    plastics: `id in ${plastics}`,
    runs: `id in (select run_id from discs where id in ${discs})`,
    discs: `id in ${discs}`,
    inspections: ofDisc,
    wear_notes: ofDisc,
    photos: ofDisc,
    throwers,
    places,
    sessions: `id in ${sessions}`,
    wind_logs: `session_id in ${sessions}`,
    trials: `id = '${id}'`,
    trial_discs: ofTrial,
    throws: ofTrial,
    short_throws: ofTrial,
    throw_versions: `throw_id in ${thrown('id')}`,
  }
  return (table) => where[table]
}
