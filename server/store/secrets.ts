import { createHash, randomBytes, randomInt, scrypt, timingSafeEqual } from 'node:crypto'
import type { BinaryLike, ScryptOptions } from 'node:crypto'
import { promisify } from 'node:util'
import { CODE_LENGTH } from '../../contract/crew.ts'

/** Letters and digits that nobody mistakes for others. */
const LETTERS = 'ABCDEFGHJKMNPQRSTVWXYZ23456789'

/** What a device comes in with, or a link lets somebody in by: 256 bits. */
export const newToken = (): string => randomBytes(32).toString('base64url')

/** A code that is read off one screen and typed on another: “K7QM-X2TD”, 39 bits, for minutes and few tries. */
export function newCode(): string {
  const code = Array.from({ length: CODE_LENGTH }, () => LETTERS[randomInt(LETTERS.length)]).join('')
  return `${code.slice(0, CODE_LENGTH / 2)}-${code.slice(CODE_LENGTH / 2)}`
}

/** A code as it may have been typed: small letters, no hyphen, spaces. */
const typed = (secret: string): string => {
  const bare = secret.replace(/[\s-]/g, '').toUpperCase()
  return bare.length === CODE_LENGTH ? bare : secret
}

/** What is stored of a secret: whoever reads the database comes in with none of them. */
export const digestOf = (secret: string): string => createHash('sha256').update(typed(secret)).digest('hex')

const derived = promisify<BinaryLike, BinaryLike, number, ScryptOptions, Buffer>(scrypt)
/** 32 MB and some 100 ms a try: RFC 7914, as OWASP recommends it. */
const COST = { log2N: 15, r: 8, p: 3 } as const
const BYTES = 32
const optionsOf = (log2N: number, r: number, p: number): ScryptOptions => ({
  N: 2 ** log2N,
  r,
  p,
  maxmem: 256 * 2 ** log2N * r,
})

/** A passphrase as it is stored: `scrypt$15$8$3$salt$key`. */
export async function hashPassphrase(passphrase: string): Promise<string> {
  const salt = randomBytes(16)
  const { log2N, r, p } = COST
  const key = await derived(passphrase.normalize('NFKC'), salt, BYTES, optionsOf(log2N, r, p))
  return ['scrypt', log2N, r, p, salt.toString('base64url'), key.toString('base64url')].join('$')
}

/** Compared where nobody of a name exists, so that it takes as long. */
const NOBODY = ['scrypt', COST.log2N, COST.r, COST.p, 'AAAAAAAAAAAAAAAAAAAAAA', 'A'.repeat(43)].join('$')

/** Whether a passphrase is the one that was stored; takes as long where none was. */
export async function fits(passphrase: string, stored: string | null): Promise<boolean> {
  const [, log2N, r, p, salt, key] = (stored ?? NOBODY).split('$')
  const wanted = Buffer.from(key!, 'base64url')
  const got = await derived(
    passphrase.normalize('NFKC'),
    Buffer.from(salt!, 'base64url'),
    wanted.length,
    optionsOf(Number(log2N), Number(r), Number(p)),
  )
  return stored !== null && timingSafeEqual(got, wanted)
}
