import { X509Certificate } from 'node:crypto'
import { once } from 'node:events'
import fs from 'node:fs'
import http from 'node:http'
import type { AddressInfo } from 'node:net'
import os from 'node:os'
import path from 'node:path'
import tls from 'node:tls'
import { expect } from 'chai'
import type { Pass } from '../../contract/crew.ts'
import { addressesOf } from '../../server/middleware/forwarded.ts'
import { startServer } from '../../server/main.ts'
import { Authority } from '../../server/share/authority.ts'
import { BadSetting, serverReachOf } from '../../server/share/settings.ts'
import { SharedServing } from '../../server/share/sharing.ts'
import { firstOwner, openInvitation } from '../../server/store/crew.ts'
import { testDatabase } from './server.ts'

const DAY = 86_400_000
const root = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-authority-'))
after(() => fs.rmSync(root, { recursive: true, force: true }))
const folderOf = (name: string) => path.join(root, name)

/** What a plain request is answered: status, headers, text. */
function plainly(url: string, headers: Record<string, string> = {}, method = 'GET') {
  return new Promise<{ status: number; headers: http.IncomingHttpHeaders; text: string }>(
    (answered, failed) => {
      const req = http.request(url, { method, headers, agent: false }, (res) => {
        let text = ''
        res.setEncoding('utf8')
        res.on('data', (d: string) => (text += d))
        res.on('end', () => answered({ status: res.statusCode!, headers: res.headers, text }))
      })
      req.on('error', failed)
      req.end()
    },
  )
}
/** The certificate that is shown at an address. */
const shownAt = (port: number, host = '127.0.0.2') =>
  new Promise<string>((shown, failed) => {
    const socket = tls.connect({ port, host, rejectUnauthorized: false }, () => {
      shown(socket.getPeerX509Certificate()!.fingerprint256)
      socket.destroy()
    })
    socket.on('error', failed)
  })

describe('the authority of a machine', () => {
  const names = ['192.0.2.7', 'shed.local']

  it('is made once, read by nobody else, and signs for the names and addresses it is asked for', async () => {
    const folder = folderOf('once')
    const made = await Authority.in(folder)
    expect((await Authority.in(folder)).fingerprint).to.equal(made.fingerprint)
    for (const file of ['authority.key', 'authority.pem'])
      expect(fs.statSync(path.join(folder, file)).mode & 0o077, file).to.equal(0)
    const ca = new X509Certificate(made.der)
    expect(ca.ca).to.equal(true)
    const leaf = new X509Certificate((await made.leafFor(names)).cert)
    expect(leaf.checkIssued(ca)).to.equal(true)
    expect(leaf.verify(ca.publicKey)).to.equal(true)
    expect(leaf.ca).to.equal(false)
    expect(leaf.checkIP('192.0.2.7')).to.equal('192.0.2.7')
    expect(leaf.checkHost('shed.local')).to.equal('shed.local')
    expect(leaf.checkHost('elsewhere.example')).to.equal(undefined)
    // phones take none that lasts longer than 825 days
    expect(Date.parse(leaf.validTo) - Date.parse(leaf.validFrom)).to.be.lessThan(825 * DAY)
  })

  it('keeps a certificate while it serves, and makes another for another name, or before it is over', async () => {
    const authority = await Authority.in(folderOf('leaf'))
    const first = (await authority.leafFor(names)).cert
    expect((await authority.leafFor(names)).cert).to.equal(first)
    expect((await authority.leafFor(['192.0.2.7'])).cert).to.equal(first)
    expect((await authority.leafFor([...names, '192.0.2.8'])).cert).to.not.equal(first)
    const now = (await authority.leafFor(names)).cert
    expect((await authority.leafFor(names, Date.now() + 50 * DAY)).cert).to.equal(now)
    expect((await authority.leafFor(names, Date.now() + 70 * DAY)).cert).to.not.equal(now)
  })
})

describe('sharing', () => {
  it('over plain HTTP hands out the certificate and how to have it trusted; everything else is shown to HTTPS', async () => {
    const share = new SharedServing(
      { folder: folderOf('plain'), host: '127.0.0.2', httpsPort: 0, httpPort: 0 },
      (_, res) => res.end('the app'),
    )
    await share.turn(true)
    try {
      const { urls, trustUrl, fingerprint } = share.state()
      const page = await plainly(trustUrl!)
      expect(page.text).to.include(fingerprint)
      expect(page.headers['content-security-policy']).to.match(/default-src 'none'.*script-src 'sha256-/)
      const crt = await plainly(`${trustUrl}/veer-line.crt`)
      expect(crt.headers['content-type']).to.equal('application/x-x509-ca-cert')
      for (const [method, at] of [
        ['GET', '/api/trials'],
        ['POST', '/api/sign-in'],
        ['GET', '/shelf?find=a'],
      ] as const) {
        const on = await plainly(trustUrl + at, {}, method)
        expect(on.status).to.equal(308)
        expect(on.headers.location).to.equal(urls[0] + at)
      }
      expect((await plainly(trustUrl!, { host: 'elsewhere.example' })).status).to.equal(403)
    } finally {
      await share.stop()
    }
  })

  it('takes a certificate that was given, and the next one without being stopped', async function () {
    this.timeout(60_000)
    // as somebody else would issue them
    const [one, two] = [
      await Authority.in(folderOf('issuer one')),
      await Authority.in(folderOf('issuer two')),
    ]
    const given = { cert: folderOf('given.pem'), key: folderOf('given.key') }
    const give = async (authority: Authority) => {
      const { cert, key } = await authority.leafFor(['127.0.0.2'])
      fs.writeFileSync(given.key, key)
      fs.writeFileSync(given.cert, cert)
      return new X509Certificate(cert).fingerprint256
    }
    const first = await give(one)
    const share = new SharedServing(
      { folder: folderOf('given'), host: '127.0.0.2', httpsPort: 0, httpPort: 0, given },
      (_, res) => res.end(),
    )
    await share.turn(true)
    try {
      const port = Number(new URL(share.state().urls[0]!).port)
      expect(await shownAt(port)).to.equal(first)
      // phones know who issued it: there is nothing to hand out
      expect(share.state()).to.include({ trustUrl: null, fingerprint: null })
      const second = await give(two)
      while ((await shownAt(port)) !== second) await new Promise((r) => setTimeout(r, 200))
      // one that is none is not taken, and said; the one in force goes on
      fs.writeFileSync(given.cert, 'not a certificate')
      while (share.state().problem === null) await new Promise((r) => setTimeout(r, 200))
      expect(share.state().problem).to.include('could not be renewed')
      expect(await shownAt(port)).to.equal(second)
    } finally {
      await share.stop()
    }
  })

  it('says in a sentence why it cannot be, and leaves the rest as it is', async () => {
    const taken = http.createServer().listen(0, '127.0.0.2')
    await once(taken, 'listening')
    const { port } = taken.address() as AddressInfo
    const share = new SharedServing(
      { folder: folderOf('taken'), host: '127.0.0.2', httpsPort: 0, httpPort: port },
      () => {},
    )
    await share.turn(true).then(
      () => expect.fail('it is shared'),
      (e: Error) => expect(e.message).to.match(/one of them is taken by another program/),
    )
    expect(share.state()).to.include({ on: false })
    expect(share.wasOn).to.equal(false)
    taken.close()
    await once(taken, 'close')
    await share.turn(true)
    expect(share.state()).to.include({ on: true, problem: null })
    await share.stop()
    // it is on again after the next start
    expect(share.wasOn).to.equal(true)
  })
})

describe('how a server is reached', () => {
  it('is what the environment names', () => {
    expect(serverReachOf({}, '/data', false)).to.deep.equal({
      host: '127.0.0.1',
      share: { folder: '/data/share', host: '0.0.0.0', httpsPort: 4443, httpPort: 4480, on: false },
    })
    // what is plain stays on this machine, whatever address is named
    expect(serverReachOf({ HOST: '192.0.2.7' }, '/data', false)).to.deep.include({ host: '127.0.0.1' })
    expect(serverReachOf({ HOST: '192.0.2.7' }, '/data', false).share).to.include({
      host: '192.0.2.7',
      on: true,
    })
    const behind = serverReachOf(
      { TRUSTED_PROXY: '10.0.0.0/8, ::1', PUBLIC_NAME: 'veer.example.org' },
      '/data',
      false,
    )
    expect(behind.behind!.names).to.deep.equal(['veer.example.org'])
    expect(behind.share).to.equal(undefined)
  })
  it('is refused in a sentence where it cannot be', () => {
    const wrong: readonly (readonly [Record<string, string>, RegExp])[] = [
      [{ SHARE_PORT: 'many' }, /SHARE_PORT is many/],
      [{ TLS_CERT: 'a.pem' }, /go together/],
      [{ TRUSTED_PROXY: '10.0.0.1' }, /PUBLIC_NAME must say/],
      [{ TRUSTED_PROXY: 'the proxy', PUBLIC_NAME: 'a.example' }, /must be addresses or networks/],
    ]
    for (const [env, says] of wrong)
      expect(() => serverReachOf(env, '/data', false)).to.throw(BadSetting, says)
    expect(addressesOf('10.0.0.0/8').check('10.9.8.7')).to.equal(true)
    expect(addressesOf('10.0.0.0/8').check('11.9.8.7')).to.equal(false)
  })
})

describe('behind a proxy', () => {
  const startedBehind = async (proxy: string) =>
    await startServer({
      databaseUrl: await testDatabase(),
      host: '127.0.0.1',
      port: 0,
      quiet: true,
      behind: { proxies: addressesOf(proxy), names: ['veer.example.org'] },
    })

  it('everybody comes in with a key; what the proxy says is believed, what others say is not', async () => {
    const running = await startedBehind('127.0.0.1')
    try {
      const through = {
        host: 'veer.example.org',
        'x-forwarded-proto': 'https',
        'x-forwarded-for': '203.0.113.9',
      }
      expect((await plainly(`${running.url}/api/trials`, through)).status).to.equal(401)
      // nobody is taken to sit at the machine
      expect((await plainly(`${running.url}/api/trials`)).status).to.equal(401)
      expect(
        (await plainly(`${running.url}/api/me`, { ...through, host: 'elsewhere.example' })).status,
      ).to.equal(403)
      // the way in is given over what the proxy says is HTTPS
      const pass: Pass = await openInvitation(running.db, 'owner', {
        person: await firstOwner(running.db),
        keyId: null,
      })
      const joined = await new Promise<{ status: number; cookie: string | undefined }>((answered, failed) => {
        const req = http.request(
          `${running.url}/api/join`,
          { method: 'POST', agent: false, headers: { ...through, 'content-type': 'application/json' } },
          (res) => {
            res.resume()
            answered({ status: res.statusCode!, cookie: res.headers['set-cookie']?.[0]?.split(';')[0] })
          },
        )
        req.on('error', failed)
        req.end(
          JSON.stringify({
            secret: pass.secret,
            name: 'Ida',
            passphrase: 'nine herons at the weir',
            device: 'x',
          }),
        )
      })
      expect(joined.status).to.equal(200)
      expect(
        (await plainly(`${running.url}/api/trials`, { ...through, cookie: joined.cookie! })).status,
      ).to.equal(200)
    } finally {
      await running.stop()
    }
  })

  it('tries are counted by the address the proxy saw, whatever somebody wrote before it', async () => {
    const running = await startedBehind('127.0.0.1')
    const guess = (before: string) =>
      fetch(`${running.url}/api/pair`, {
        method: 'POST',
        headers: {
          'content-type': 'application/json',
          'x-forwarded-host': 'veer.example.org',
          'x-forwarded-proto': 'https',
          'x-forwarded-for': `${before}, 203.0.113.9`,
        },
        body: JSON.stringify({ code: 'AAAA-AAAA', device: 'x' }),
      })
    try {
      const statuses: number[] = []
      for (let i = 0; i < 32; i++) statuses.push((await guess(`198.51.100.${i}`)).status)
      expect(statuses.slice(0, 30)).to.deep.equal(Array.from({ length: 30 }, () => 422))
      expect(statuses.slice(30)).to.deep.equal([429, 429])
    } finally {
      await running.stop()
    }
  })

  it('what somebody else says of who asked is not believed', async () => {
    // the proxy is another machine; this one says what it likes
    const running = await startedBehind('192.0.2.1')
    try {
      const said = { host: '127.0.0.1', 'x-forwarded-host': 'veer.example.org', 'x-forwarded-proto': 'https' }
      expect((await plainly(`${running.url}/api/me`, said)).status).to.equal(200)
      // the name that was passed on would be known; it is not listened to
      const foreign = { ...said, host: 'elsewhere.example' }
      expect((await plainly(`${running.url}/api/me`, foreign)).status).to.equal(403)
    } finally {
      await running.stop()
    }
  })
})
