import { useEffect } from 'react'
import useSWR, { mutate } from 'swr'
import {
  DeviceKeys,
  FailedTries,
  Me,
  Member,
  Members,
  Offers,
  OpenPasses,
  Pass,
  Sharing,
} from '../../contract/crew.ts'
import type { Role } from '../../contract/crew.ts'
import { ask, change, read, takeAway, whenSignedOut } from './api.ts'
import { useRead } from './hooks.ts'
import { forgetMe, keepMe, keptMe } from './me.ts'
import { REMEMBERED } from './remembered.ts'

const ME = '/api/me'
/** Who is in on this device; undefined until that is known. */
export function useMe(): Me | undefined {
  const { data } = useSWR<Me>(ME, (p: string) => read(p, Me), { fallbackData: keptMe() as Me })
  useEffect(() => {
    if (!data) return
    keepMe(data)
    // whoever is out reads nothing of what was read here; what they logged and was not sent stays
    if (data.person === null && typeof caches !== 'undefined') void caches.delete(REMEMBERED)
  }, [data])
  useEffect(() => whenSignedOut(() => void mutate(ME)), [])
  return data
}

/** Comes in, and opens the app as whoever that is. */
async function cameIn(path: string, body: unknown): Promise<void> {
  keepMe(await ask(path, body, Me))
  // a code in the address is used up; it does not stay in the history
  history.replaceState(null, '', '/')
  location.assign('/')
}
export const pair = (code: string, device: string) => cameIn('/api/pair', { code, device })
export const signIn = (name: string, passphrase: string, device: string) =>
  cameIn('/api/sign-in', { name, passphrase, device })
export const join = (secret: string, name: string, passphrase: string, device: string) =>
  cameIn('/api/join', { secret, name, passphrase, device })

/** Goes out: what was read is forgotten on this device, what waits stays. */
export async function signOut(): Promise<void> {
  await ask('/api/sign-out', {}, Me)
  forgetMe()
  if (typeof caches !== 'undefined') await caches.delete(REMEMBERED)
  location.assign('/')
}

/** Comes in at the machine itself, by what start printed. */
export const atMachine = (secret: string) => cameIn('/api/at-machine', { secret })

const PASSES = '/api/passes'
export const usePasses = () =>
  useSWR(PASSES, (p: string) => read(p, OpenPasses), { refreshInterval: 5000 }).data
export const takePassBack = (id: string) =>
  mutate(PASSES, takeAway(`${PASSES}/${id}`, OpenPasses), { revalidate: false })
/** A link or code that was just made is listed too. */
async function made(pass: Promise<Pass>): Promise<Pass> {
  const it_ = await pass
  void mutate(PASSES)
  return it_
}
export const openPairing = () => made(ask('/api/pairings', {}, Pass))
/** @param passphrase one’s own, where an owner is made */
export const invite = (role: Role, passphrase?: string) =>
  made(ask('/api/invitations', { role, ...(passphrase && { passphrase }) }, Pass))

export const useFailedTries = () =>
  useSWR('/api/failed-tries', (p: string) => read(p, FailedTries), { refreshInterval: 20_000 }).data

const OFFERS = '/api/offers'
/** Changes of scribes that wait for an owner. */
export const useOffers = (isOwner: boolean) =>
  useSWR(isOwner ? OFFERS : null, (p: string) => read(p, Offers), { refreshInterval: 20_000 }).data
export const takeOffer = (id: string) =>
  mutate(OFFERS, ask(`${OFFERS}/${id}/take`, {}, Offers), { revalidate: false })
export const leaveOffer = (id: string) =>
  mutate(OFFERS, takeAway(`${OFFERS}/${id}`, Offers), { revalidate: false })

const PEOPLE = '/api/people'
export const usePeople = () => useRead(PEOPLE, Members).data
export async function changeMember(
  id: string,
  standing: { role: Role; removed: boolean; passphrase?: string },
): Promise<void> {
  await change(`${PEOPLE}/${id}`, standing, Member)
  await Promise.all([mutate(PEOPLE), mutate(KEYS), mutate(ME)])
}
export async function changeMyself(me: {
  name: string
  passphrase?: string
  before?: string
}): Promise<void> {
  await mutate(ME, change(ME, me, Me), { revalidate: false })
  await Promise.all([mutate(PEOPLE), mutate(KEYS)])
}

const KEYS = '/api/keys'
export const useKeys = () => useSWR(KEYS, (p: string) => read(p, DeviceKeys), { refreshInterval: 5000 }).data
export const takeKeyAway = (id: string) =>
  mutate(KEYS, takeAway(`${KEYS}/${id}`, DeviceKeys), { revalidate: false })

const SHARING = '/api/sharing'
export const useSharing = (isOwner: boolean) => useRead(isOwner ? SHARING : null, Sharing).data
export const turnSharing = (on: boolean) =>
  mutate(SHARING, change(SHARING, { on }, Sharing), { revalidate: false })

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
