import { Me } from '../../contract/crew.ts'
import { mayDo, ROLE_WORDS } from '../../contract/roles.ts'
import { writeOf } from '../../contract/writes.ts'
import type { WriteKind } from '../../contract/writes.ts'

const KEPT = 'veer-line.me'

/** Who was in last on this device, at hand before the server answers and when it does not. */
export function keptMe(): Me | undefined {
  try {
    return Me.safeParse(JSON.parse(localStorage.getItem(KEPT) ?? 'null')).data
  } catch {
    return undefined
  }
}
export const keepMe = (me: Me): void => localStorage.setItem(KEPT, JSON.stringify(me))
export const forgetMe = (): void => localStorage.removeItem(KEPT)

/** Why whoever is in may not write something; undefined where they may. */
export function notFor(kind: WriteKind): string | undefined {
  const person = keptMe()?.person
  const needed = writeOf(kind).by
  if (!person || mayDo(person.role, needed)) return undefined
  return `You are a ${person.role} here: a ${person.role} ${ROLE_WORDS[person.role]}. This needs ${needed === 'owner' ? 'an owner' : `a ${needed}`}; nothing was kept.`
}
