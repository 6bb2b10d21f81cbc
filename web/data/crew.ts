import { at } from '../../contract/api.ts'
import { useEffect } from 'react'
import { mutate } from 'swr'
import type { Me, Pass } from '../../contract/crew.ts'
import type { Role } from '../../contract/roles.ts'
import { send, whenSignedOut } from './api.ts'
import { useRead } from './hooks.ts'
import { forgetMe, keepMe, keptMe } from './me.ts'
import { REMEMBERED } from './remembered.ts'

const ME = at('GET /api/me')
/** Who is in on this device; undefined until that is known. */
export function useMe(): Me | undefined {
  const { data } = useRead(ME, { fallbackData: keptMe() as Me })
  useEffect(() => {
    if (!data) return
    keepMe(data)
    // whoever is out reads nothing of what was read here; what they logged and was not sent stays
    if (data.person === null && typeof caches !== 'undefined') void caches.delete(REMEMBERED)
  }, [data])
  useEffect(() => whenSignedOut(() => void mutate(ME.path)), [])
  return data
}

/** Comes in, and opens the app as whoever that is. */
async function cameIn(me: Promise<Me>): Promise<void> {
  keepMe(await me)
  // a code in the address is used up; it does not stay in the history
  history.replaceState(null, '', '/')
  location.assign('/')
}
export const pair = (code: string, device: string) => cameIn(send(at('POST /api/pair'), { code, device }))
export const signIn = (name: string, passphrase: string, device: string) =>
  cameIn(send(at('POST /api/sign-in'), { name, passphrase, device }))
export const join = (secret: string, name: string, passphrase: string, device: string) =>
  cameIn(send(at('POST /api/join'), { secret, name, passphrase, device }))

/** Goes out: what was read is forgotten on this device, what waits stays. */
export async function signOut(): Promise<void> {
  await send(at('POST /api/sign-out'))
  forgetMe()
  if (typeof caches !== 'undefined') await caches.delete(REMEMBERED)
  location.assign('/')
}

/** Comes in at the machine itself, by what start printed. */
export const atMachine = (secret: string) => cameIn(send(at('POST /api/at-machine'), { secret }))

const PASSES = at('GET /api/passes')
export const usePasses = () => useRead(PASSES, { refreshInterval: 5000 }).data
export const takePassBack = (id: string) =>
  mutate(PASSES.path, send(at('DELETE /api/passes/:id', { id })), { revalidate: false })
/** A link or code that was just made is listed too. */
async function made(pass: Promise<Pass>): Promise<Pass> {
  const it_ = await pass
  void mutate(PASSES.path)
  return it_
}
export const openPairing = () => made(send(at('POST /api/pairings')))
/** @param passphrase one’s own, where an owner is made */
export const invite = (role: Role, passphrase?: string) =>
  made(send(at('POST /api/invitations'), { role, ...(passphrase && { passphrase }) }))

export const useFailedTries = () => useRead(at('GET /api/failed-tries'), { refreshInterval: 20_000 }).data

const OFFERS = at('GET /api/offers')
/** Changes of scribes that wait for an owner. */
export const useOffers = (isOwner: boolean) =>
  useRead(isOwner ? OFFERS : null, { refreshInterval: 20_000 }).data
export const takeOffer = (id: string) =>
  mutate(OFFERS.path, send(at('POST /api/offers/:id/take', { id })), { revalidate: false })
export const leaveOffer = (id: string) =>
  mutate(OFFERS.path, send(at('DELETE /api/offers/:id', { id })), { revalidate: false })

const PEOPLE = at('GET /api/people')
export const usePeople = () => useRead(PEOPLE).data
export async function changeMember(
  id: string,
  standing: { role: Role; removed: boolean; passphrase?: string },
): Promise<void> {
  await send(at('PUT /api/people/:id', { id }), standing)
  await Promise.all([mutate(PEOPLE.path), mutate(KEYS.path), mutate(ME.path)])
}
export async function changeMyself(me: {
  name: string
  passphrase?: string
  before?: string
}): Promise<void> {
  await mutate(ME.path, send(at('PUT /api/me'), me), { revalidate: false })
  await Promise.all([mutate(PEOPLE.path), mutate(KEYS.path)])
}

const KEYS = at('GET /api/keys')
export const useKeys = () => useRead(KEYS, { refreshInterval: 5000 }).data
export const takeKeyAway = (id: string) =>
  mutate(KEYS.path, send(at('DELETE /api/keys/:id', { id })), { revalidate: false })

const SHARING = at('GET /api/sharing')
export const useSharing = (isOwner: boolean) => useRead(isOwner ? SHARING : null).data
export const turnSharing = (on: boolean) =>
  mutate(SHARING.path, send(at('PUT /api/sharing'), { on }), { revalidate: false })

/** What a device may be called until somebody names it: “iPhone”, “Android phone”, “Firefox on Linux”. */
export function usualDeviceName(agent = navigator.userAgent): string {
  if (/iPhone/.test(agent)) return 'iPhone'
  if (/iPad/.test(agent)) return 'iPad'
  if (/Android/.test(agent)) return /Mobile/.test(agent) ? 'Android phone' : 'Android tablet'
  const browser = /Firefox/.test(agent)
    ? 'Firefox'
    : /Edg\//.test(agent)
      ? 'Edge'
      : /Chrome/.test(agent)
        ? 'Chromium'
        : 'Safari'
  const system = /Windows/.test(agent) ? 'Windows' : /Mac/.test(agent) ? 'a Mac' : 'Linux'
  return `${browser} on ${system}`
}
