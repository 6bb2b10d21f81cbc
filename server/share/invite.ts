import QRCode from 'qrcode'
import type { SharingNow } from '../../contract/crew.ts'
import type { Database } from '../store/database.ts'
import { firstOwner, openInvitation, makePairing, readKeys, readMembers } from '../store/crew.ts'

const drawn = (text: string) =>
  QRCode.toString(text, { type: 'terminal', small: true, errorCorrectionLevel: 'L' })

/** How a phone comes in, for the terminal: addresses, a code that lasts five minutes, and both to be pointed at. */
export async function howToPair(db: Database, sharing: SharingNow): Promise<string> {
  const [at, ...more] = sharing.urls
  if (at === undefined) return sharing.problem ?? 'No address of this machine can be reached by others.'
  const { secret } = await makePairing(db, { person: await firstOwner(db), keyId: null })
  return [
    `Phones on this network: ${at}${more.length > 0 ? `   (also ${more.slice(0, 2).join(', ')})` : ''}`,
    ...(sharing.trustUrl === null
      ? []
      : [
          `\n1. Once a phone, let it trust this machine: ${sharing.trustUrl}`,
          await drawn(sharing.trustUrl),
          `   SHA-256 of the certificate: ${sharing.fingerprint}`,
        ]),
    `\n${sharing.trustUrl === null ? '' : '2. '}Pair it: ${at}/pair   code ${secret}   (five minutes; Settings shows another)`,
    await drawn(`${at}/pair#${secret}`),
  ].join('\n')
}

/**
 * The way in for the first owner of a server behind a proxy, where nobody can come in yet.
 *
 * @param name what the proxy is reached by
 */
export async function firstWayIn(db: Database, name: string): Promise<string | undefined> {
  const [people, keys] = await Promise.all([readMembers(db), readKeys(db)])
  if (keys.length > 0 || people.some((p) => p.hasPassphrase && p.removedAt === null)) return undefined
  const { secret } = await openInvitation(db, 'owner', { person: await firstOwner(db), keyId: null })
  return `Nobody can come in yet. The first owner opens, within a week:\n\n  https://${name}/join#${secret}`
}
