import { BlockList, isIP } from 'node:net'
import type { IncomingMessage } from 'node:http'
import type { Middleware } from 'koa'
import { Refusal } from './problems.ts'

const FORWARDED = ['x-forwarded-for', 'x-forwarded-proto', 'x-forwarded-host', 'forwarded']
/** What else proxies, balancers and tunnels leave on what they pass on; no browser sends any of it by itself. */
const PASSED_ON =
  /^(via|forwarded(-for)?|x-forwarded(-.*)?|x-real-ip|x-original-(for|forwarded-for|host|proto|url)|x-(client|cluster-client|remote|true-client)-(ip|addr)|true-client-ip|cf-.*|cdn-loop|fly-.*|fastly-.*|x-envoy-.*|x-amzn-.*|x-azure-.*|x-arr-.*|x-proxy.*|x-request-id|x-varnish|x-traefik-.*|traceparent|x-b3-.*|proxy-connection)$/

/** Addresses and networks somebody named: “127.0.0.1, 10.0.0.0/8”. @throws Error where one is none */
export function addressesOf(list: string): BlockList {
  const named = new BlockList()
  for (const one of list
    .split(',')
    .map((s) => s.trim())
    .filter(Boolean)) {
    const [address, bits, ...more] = one.split('/')
    const version = isIP(address!)
    if (version === 0 || more.length > 0 || (bits !== undefined && !/^\d{1,3}$/.test(bits)))
      throw new Error(`TRUSTED_PROXY names ${one}; it must be addresses or networks such as 10.0.0.0/8.`)
    const family = version === 6 ? 'ipv6' : 'ipv4'
    if (bits === undefined) named.addAddress(address!, family)
    else named.addSubnet(address!, Number(bits), family)
  }
  return named
}

const familyOf = (address: string) => (isIP(address) === 6 ? 'ipv6' : 'ipv4')

/** Where a request came from, on the wire: `::ffff:10.0.0.1` is 10.0.0.1. */
const remoteOf = (req: IncomingMessage): string => (req.socket.remoteAddress ?? '').replace(/^::ffff:/, '')

/**
 * Believes what a proxy says of who asked only where it comes from one that was told. Where none was, a request that a proxy
 * passed on is turned away: it would be taken for one of this machine's own.
 */
export function forwarded(proxies: BlockList | undefined): Middleware {
  return async (ctx, next) => {
    const said = proxies
      ? FORWARDED.filter((name) => ctx.req.headers[name] !== undefined)
      : Object.keys(ctx.req.headers).filter((name) => PASSED_ON.test(name))
    const from = remoteOf(ctx.req)
    if (said.length > 0 && !(proxies && isIP(from) > 0 && proxies.check(from, familyOf(from)))) {
      if (!proxies)
        throw new Refusal(
          403,
          'An untold proxy',
          'A proxy passed this request on, and the server was not told of one. Start it with TRUSTED_PROXY naming the proxy’s address.',
        )
      for (const name of said) delete ctx.req.headers[name]
    }
    await next()
  }
}
