import { z } from 'zod'
import { Id, Instant, Name, oneOf } from './shelf.ts'
import { ROLES } from './roles.ts'

export const PASS_KINDS = ['pairing', 'invitation'] as const
/** Passes somebody may have open at a time. */
export const MOST_PASSES = 5
/** What somebody tries who comes in, or proves who they are. */
export const TRY_KINDS = ['passphrase', 'code', 'invitation'] as const

/** As short as a passphrase may be, and as long. */
export const PASSPHRASE_LENGTH = [10, 200] as const
const Passphrase = z
  .string()
  .min(PASSPHRASE_LENGTH[0], `must be at least ${PASSPHRASE_LENGTH[0]} characters`)
  .max(PASSPHRASE_LENGTH[1], `must be at most ${PASSPHRASE_LENGTH[1]} characters`)

export const Person = z.object({
  id: Id,
  name: Name,
  role: oneOf(ROLES),
  removedAt: Instant.nullable(),
})
export type Person = z.infer<typeof Person>

/** A person as the owner sees them. */
export const Member = Person.extend({
  /** Whether they can sign in with a passphrase. */
  hasPassphrase: z.boolean(),
})
export type Member = z.infer<typeof Member>
export const Members = z.array(Member)

/** Who asks; nobody who has not come in. */
export const Me = z.object({
  person: Member.nullable(),
  /** The device's own key; none on the machine itself. */
  keyId: Id.nullable(),
  /** Whether this is the machine itself, without what it shows since others were let in. */
  lacksMachineKey: z.boolean().default(false),
})
export type Me = z.infer<typeof Me>

/** A device somebody has come in with. */
export const DeviceKey = z.object({
  id: Id,
  personId: Id,
  person: z.string(),
  name: Name,
  madeAt: Instant,
  seenAt: Instant,
})
export type DeviceKey = z.infer<typeof DeviceKey>
export const DeviceKeys = z.array(DeviceKey)

/** A link or code that is open: it is shown once, when it is made. */
export const Pass = z.object({
  id: Id,
  kind: oneOf(PASS_KINDS),
  /** What is typed, or stands in the link. */
  secret: z.string(),
  expiresAt: Instant,
})
export type Pass = z.infer<typeof Pass>

/** A link or code that is open, as it is listed: what it opens by is told once. */
export const OpenPass = z.object({
  id: Id,
  kind: oneOf(PASS_KINDS),
  /** What the person it makes may do; none of a pairing code. */
  role: oneOf(ROLES).nullable(),
  /** Who made it. */
  person: z.string(),
  personId: Id,
  /** On which device; none at the machine itself. */
  device: z.string().nullable(),
  madeAt: Instant,
  expiresAt: Instant,
})
export type OpenPass = z.infer<typeof OpenPass>
export const OpenPasses = z.array(OpenPass)

/** Tries to come in that failed, from one address as one name. */
export const FailedTry = z.object({
  id: Id,
  what: oneOf(TRY_KINDS),
  name: z.string(),
  address: z.string(),
  tries: z.int(),
  firstAt: Instant,
  lastAt: Instant,
})
export type FailedTry = z.infer<typeof FailedTry>
export const FailedTryList = z.array(FailedTry)

/** A change that a scribe made of a row that is somebody else’s: it stands as it was until an owner takes the change over. */
export const Offer = z.object({
  id: Id,
  kind: z.string(),
  rowId: Id,
  /** What the row is called. */
  name: z.string(),
  person: z.string(),
  offeredAt: Instant,
  fields: z.array(z.object({ field: z.string(), now: z.unknown(), then: z.unknown() })),
})
export type Offer = z.infer<typeof Offer>
export const Offers = z.array(Offer)

/** Length of a pairing code without its hyphen. */
export const CODE_LENGTH = 8
const device = Name

/** Scripts whose letters pass for those of others. */
const SCRIPTS = [
  'Latin',
  'Greek',
  'Cyrillic',
  'Armenian',
  'Cherokee',
  'Coptic',
  'Georgian',
  'Hebrew',
  'Arabic',
] as const
const OF = SCRIPTS.map((script) => [script, new RegExp(`\\p{Script=${script}}`, 'u')] as const)
/** What is not seen, or changes how what stands beside it is read. */
const UNSEEN = /[\p{C}\p{Default_Ignorable_Code_Point}\u2028\u2029]/u

/**
 * A person’s name as it is compared: two that fold to the same are one name. The only place where that is said; nothing else
 * lowers the case of a person’s name.
 */
export const folded = (name: string): string =>
  name
    .normalize('NFKC')
    .replaceAll(/[İı]/g, 'i')
    .toLowerCase()
    .normalize('NFKC')
    .replaceAll(/\s+/g, ' ')
    .trim()

/** What a person is called: nothing that passes for another name. */
export const PersonName = Name.superRefine((name, ctx) => {
  const say = (message: string) => ctx.addIssue({ code: 'custom', message })
  const scripts = OF.filter(([, of]) => of.test(name)).map(([script]) => script)
  if (UNSEEN.test(name)) say('holds a character that is not seen; type the name anew')
  else if (scripts.length > 1)
    say(`mixes ${scripts.join(' and ')} letters, which look alike; use those of one alphabet`)
  else if (name.normalize('NFKC') !== name.normalize('NFC'))
    say(`holds letters that stand for plain ones; write ${name.normalize('NFKC')}`)
})
export const SignIn = z.object({ name: Name, passphrase: z.string().max(PASSPHRASE_LENGTH[1]), device })
export const Pairing = z.object({ code: z.string().trim().max(40), device })
export const Joining = z.object({
  secret: z.string().max(100),
  name: PersonName,
  passphrase: Passphrase,
  device,
})
/** Whoever makes an owner shows once more that it is them. */
const again = z.string().max(PASSPHRASE_LENGTH[1]).optional()
export const Inviting = z.object({ role: oneOf(ROLES), passphrase: again })
/** What a person changes of themselves; a passphrase they have is asked for. */
export const MyselfSent = z.object({
  name: PersonName,
  passphrase: Passphrase.optional(),
  before: z.string().max(PASSPHRASE_LENGTH[1]).optional(),
})
/** What an owner changes of somebody. */
export const MemberStanding = z.object({ role: oneOf(ROLES), removed: z.boolean(), passphrase: again })

/** Whether others can reach this machine, and where. */
export const SharingNow = z.object({
  on: z.boolean(),
  /** Whether it can be switched here. */
  switchable: z.boolean(),
  /** Addresses a phone opens, the best first. */
  urls: z.array(z.string()),
  /** Where a phone gets the authority's certificate; none where the certificate is one that phones know. */
  trustUrl: z.string().nullable(),
  /** SHA-256 of the authority's certificate, in pairs. */
  fingerprint: z.string().nullable(),
  problem: z.string().nullable(),
})
export type SharingNow = z.infer<typeof SharingNow>
/** What the address holds that the start command prints. */
export const AtMachine = z.object({ secret: z.string().max(100) })
export const Switched = z.object({ on: z.boolean() })
/** Holds the key of a device; the prefix has browsers take it over HTTPS and of this very host alone. */
export const KEY_COOKIE = '__Host-veer-line'
