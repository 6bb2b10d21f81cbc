import net from 'node:net'
import os from 'node:os'

/** Where a host may listen for everybody. */
const ANYWHERE = new Set(['0.0.0.0', '::'])

const isLinkLocal = (address: string) => address.startsWith('fe80:') || address.startsWith('169.254.')

/**
 * Names and addresses this machine is reached by on a listening address, those a phone finds best first: addresses of this
 * network, then what the machine is called.
 */
export function reachedBy(host: string): string[] {
  if (!ANYWHERE.has(host)) return [host]
  const addresses = Object.values(os.networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter((a) => !a.internal && !isLinkLocal(a.address))
    .sort((a, b) => a.family.localeCompare(b.family))
    .map((a) => a.address)
  const called = os.hostname().toLowerCase()
  // the name by which machines of one network find each other
  const names = /^[a-z0-9-]+$/.test(called) ? [`${called}.local`, called] : [called]
  return [...new Set([...addresses, ...names])]
}

/** A host as it stands in an address. */
export const inUrl = (host: string): string => (net.isIPv6(host) ? `[${host}]` : host)
