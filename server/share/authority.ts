import { millisecondsInDay } from 'date-fns/constants'
import { webcrypto, X509Certificate } from 'node:crypto'
import fs from 'node:fs'
import net from 'node:net'
import path from 'node:path'
import 'reflect-metadata'
import * as x509 from '@peculiar/x509'

x509.cryptoProvider.set(webcrypto as Crypto)

const CURVE = { name: 'ECDSA', namedCurve: 'P-256', hash: 'SHA-256' } as const
const AUTHORITY_LASTS_MS = 10 * 365 * millisecondsInDay
/** Phones take a certificate of at most 825 days; a short one is renewed by itself. */
const LEAF_LASTS_MS = 90 * millisecondsInDay
const RENEWED_BEFORE_MS = 30 * millisecondsInDay
/** Clocks of phones are a little off. */
const SLACK_MS = millisecondsInDay

export interface Pair {
  /** PEM, the leaf first. */
  readonly cert: string
  readonly key: string
}

interface Kept {
  readonly cert: x509.X509Certificate
  readonly keys: CryptoKeyPair
}

/** The certificate authority of one machine: made once in its data folder, known to the phones that were told. */
export class Authority {
  private constructor(
    private readonly folder: string,
    private readonly kept: Kept,
  ) {}

  /** @throws Error where what is in the folder is no authority */
  static async in(folder: string): Promise<Authority> {
    const files = { cert: path.join(folder, 'authority.pem'), key: path.join(folder, 'authority.key') }
    if (fs.existsSync(files.cert)) {
      const cert = new x509.X509Certificate(fs.readFileSync(files.cert, 'utf8'))
      const keys = await keysOf(fs.readFileSync(files.key, 'utf8'), cert)
      return new Authority(folder, { cert, keys })
    }
    fs.mkdirSync(folder, { recursive: true, mode: 0o700 })
    const keys = await newKeys()
    const now = Date.now()
    const cert = await x509.X509CertificateGenerator.createSelfSigned({
      name: `CN=Veer Line on this machine, OU=${new Date(now).toISOString().slice(0, 10)}`,
      keys,
      signingAlgorithm: CURVE,
      notBefore: new Date(now - SLACK_MS),
      notAfter: new Date(now + AUTHORITY_LASTS_MS),
      extensions: [
        new x509.BasicConstraintsExtension(true, 0, true),
        new x509.KeyUsagesExtension(x509.KeyUsageFlags.keyCertSign | x509.KeyUsageFlags.cRLSign, true),
        await x509.SubjectKeyIdentifierExtension.create(keys.publicKey),
      ],
    })
    // the key first: a certificate without one would be taken for an authority
    write(files.key, await pemOf(keys.privateKey))
    write(files.cert, cert.toString('pem'))
    return new Authority(folder, { cert, keys })
  }

  /** The certificate a phone is given. */
  get der(): Buffer {
    return Buffer.from(this.kept.cert.rawData)
  }
  /** SHA-256 of it, in pairs: what a careful person compares. */
  get fingerprint(): string {
    return new X509Certificate(this.der).fingerprint256
  }

  /** A certificate for some names and addresses: the one kept, while it names them all and lasts; else another. */
  async leafFor(names: readonly string[], now = Date.now()): Promise<Pair> {
    const files = { cert: path.join(this.folder, 'leaf.pem'), key: path.join(this.folder, 'leaf.key') }
    if (fs.existsSync(files.cert) && fs.existsSync(files.key)) {
      const kept = { cert: fs.readFileSync(files.cert, 'utf8'), key: fs.readFileSync(files.key, 'utf8') }
      if (stillServes(kept.cert, names, this.kept.cert, now)) return kept
    }
    const keys = await newKeys()
    const cert = await x509.X509CertificateGenerator.create({
      serialNumber: Buffer.from(webcrypto.getRandomValues(new Uint8Array(16))).toString('hex'),
      subject: 'CN=Veer Line',
      issuer: this.kept.cert.subject,
      publicKey: keys.publicKey,
      signingKey: this.kept.keys.privateKey,
      signingAlgorithm: CURVE,
      notBefore: new Date(now - SLACK_MS),
      notAfter: new Date(now + LEAF_LASTS_MS),
      extensions: [
        new x509.BasicConstraintsExtension(false, undefined, true),
        new x509.KeyUsagesExtension(x509.KeyUsageFlags.digitalSignature, true),
        new x509.ExtendedKeyUsageExtension([x509.ExtendedKeyUsage.serverAuth]),
        new x509.SubjectAlternativeNameExtension(
          names.map((value) => ({ type: net.isIP(value) ? ('ip' as const) : ('dns' as const), value })),
        ),
        await x509.AuthorityKeyIdentifierExtension.create(this.kept.cert.publicKey),
        await x509.SubjectKeyIdentifierExtension.create(keys.publicKey),
      ],
    })
    const pair = {
      cert: `${cert.toString('pem')}\n${this.kept.cert.toString('pem')}\n`,
      key: await pemOf(keys.privateKey),
    }
    fs.rmSync(files.cert, { force: true })
    write(files.key, pair.key)
    write(files.cert, pair.cert)
    return pair
  }
}

function stillServes(
  pem: string,
  names: readonly string[],
  authority: x509.X509Certificate,
  now: number,
): boolean {
  try {
    const leaf = new X509Certificate(pem)
    return (
      leaf.checkIssued(new X509Certificate(Buffer.from(authority.rawData))) &&
      Date.parse(leaf.validTo) - now > RENEWED_BEFORE_MS &&
      names.every((name) => (net.isIP(name) ? leaf.checkIP(name) : leaf.checkHost(name)) !== undefined)
    )
  } catch {
    return false
  }
}

const newKeys = async () =>
  (await webcrypto.subtle.generateKey(CURVE, true, ['sign', 'verify'])) as unknown as CryptoKeyPair

const pemOf = async (key: CryptoKey): Promise<string> =>
  x509.PemConverter.encode(
    await webcrypto.subtle.exportKey('pkcs8', key as webcrypto.CryptoKey),
    'PRIVATE KEY',
  )

async function keysOf(pem: string, cert: x509.X509Certificate): Promise<CryptoKeyPair> {
  const [der] = x509.PemConverter.decode(pem)
  const privateKey = await webcrypto.subtle.importKey('pkcs8', der!, CURVE, true, ['sign'])
  return {
    privateKey: privateKey as CryptoKey,
    publicKey: (await cert.publicKey.export(CURVE, ['verify'])) as CryptoKey,
  }
}

/** Written aside and put in place, so that what is read is whole; nobody else reads it. */
function write(file: string, text: string): void {
  const aside = `${file}.${process.pid}`
  fs.writeFileSync(aside, text, { mode: 0o600 })
  fs.renameSync(aside, file)
}
