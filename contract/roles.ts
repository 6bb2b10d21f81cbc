/** What people may do, the least first: each may also do what those before it may. */
export const ROLES = ['reader', 'scribe', 'owner'] as const
export type Role = (typeof ROLES)[number]

/** What each does. */
export const ROLE_WORDS: Readonly<Record<Role, string>> = {
  reader: 'reads',
  scribe: 'logs throws, and changes those they logged; cannot delete or publish',
  owner: 'does everything',
}

/** Whether somebody of one role may do what needs another. */
export const mayDo = (role: Role, needed: Role): boolean => ROLES.indexOf(role) >= ROLES.indexOf(needed)
