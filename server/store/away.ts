/** What PostgreSQL and the network say where a connection broke, or never came about; another one may well work. */
const LOST = new Set(['57P01', '57P02', '08006', '08003', '08001', 'ECONNRESET', 'EPIPE'])
const LOST_WORDS = /Connection terminated|Client has encountered a connection error/
/** What they say of a database that is read-only, full, coming up or not there. */
const AWAY = new Set([
  ...['25006', '53100', '53200', '53300', '57P03'],
  ...['ECONNREFUSED', 'ETIMEDOUT', 'EHOSTUNREACH', 'ENETUNREACH'],
])
const AWAY_WORDS = /timeout exceeded when trying to connect/

const saidBy = (error: unknown): { readonly code: string; readonly words: string } => {
  const { code, message } = ((error as { cause?: unknown } | undefined)?.cause ?? error ?? {}) as {
    code?: unknown
    message?: unknown
  }
  return { code: String(code), words: String(message) }
}

/** Whether it was the connection that broke, not the database that said something. */
export function isLost(error: unknown): boolean {
  const { code, words } = saidBy(error)
  return LOST.has(code) || LOST_WORDS.test(words)
}

/** What of it whoever asked can be told in a sentence. */
const SENTENCES: Readonly<Record<string, string>> = {
  '53100': 'The disk of the server is full: nothing can be stored until there is room on it again.',
  '25006': 'The database of the server is read-only now: nothing can be stored until that is over.',
}
/** What is said to whoever asked a database that takes nothing now; where something is full, that. */
export const awaySentence = (error: unknown, full?: string): string =>
  `${full ?? SENTENCES[saidBy(error).code] ?? 'The server is there, but its database takes nothing now.'} What you kept stays on your device and is sent later.`

/** How the database says that it takes nothing now; undefined where something else went wrong. */
export function awayWords(error: unknown): string | undefined {
  const { code, words } = saidBy(error)
  return isLost(error) || AWAY.has(code) || AWAY_WORDS.test(words) ? words : undefined
}
