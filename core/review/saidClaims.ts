import type { Claimable } from '../judge/claims.ts'

/** What a sentence of a review says of discs, in a form that can be judged. */
export type SaidClaim =
  | { readonly says: Claimable; readonly disc: string; readonly than: string }
  | { readonly says: Superlative; readonly disc: string }
  | { readonly says: 'fly alike'; readonly disc: string; readonly than: string }
  | { readonly says: 'is true to its numbers'; readonly disc: string }

export const SUPERLATIVES = [
  'is the most stable',
  'is the least stable',
  'flies the farthest',
  'flies the straightest',
] as const
export type Superlative = (typeof SUPERLATIVES)[number]

/** A claim and where in a text it stands. */
export interface FoundClaim {
  readonly from: number
  readonly to: number
  readonly claim: SaidClaim
}

/** By which names each disc is spoken of; a name that two discs share names neither. */
export type Naming = readonly { readonly disc: string; readonly names: readonly string[] }[]

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&').replace(/\s+/g, '\\s+')

/** Words that turn a claim round, hedge it, put it in another’s mouth or ask it: such a sentence is left alone. */
const GUARDS =
  /\b(?:not|never|no|nor|neither|none|hardly|barely|scarcely|nothing|without|unless|if|whether|would|could|might|may|should|maybe|perhaps|probably|likely|seems?|seemed|appears?|almost|nearly|supposed|claims?|claimed|expect(?:s|ed)?|said|says?|promis(?:es|ed)|rumou?r(?:ed)?|think|thought|believed?|hoped?|doubt(?:s|ed)?|wrong|false|myth|settled)\b|n['’]t\b|\?|["“”]/i
/** After these a claim holds under some condition only, and is not the one that can be judged. */
const CONDITION =
  /^\s*[,;–—(]?\s*(?:and\s+|but\s+)?(?:at least|only|except|when|while|once|after|before|until|if|for|in|into|on|at|with|under|over|against|from|as|by|to|per|of|than|because|since|where|so|among|within|during|despite|apart)\b/i
/** What may stand before a claim in its sentence without changing it. */
const LEAD =
  /^(?:\s|,|\b(?:and|but|so|also|clearly|overall|again|still|then|here|indeed|the|that|in short|in the end|all in all|to sum up|of the discs|it shows that|the throws show that|we found that|i found that)\b)*$/i

const ADVERB =
  '(?:\\s+(?:clearly|much|far|a lot|noticeably|plainly|slightly|a little|a bit|even|still|also|always|both|surely|definitely|certainly))*'
const IS = '(?:is|was|proved|proves|turned out|comes out|came out|stays|flies|flew|are|fly)'

const COMPARISONS: readonly (readonly [claim: Claimable, pattern: string])[] = [
  ['is-more-stable-than', `${IS}${ADVERB}\\s+(?:more (?:over)?stable|less understable|stabler)`],
  ['is-less-stable-than', `${IS}${ADVERB}\\s+(?:less (?:over)?stable|more understable)`],
  ['flies-farther-than', `(?:flies|flew|goes|went|carries|carried)${ADVERB}\\s+(?:farther|further|longer)`],
  ['flies-straighter-than', `${IS}${ADVERB}\\s+straighter`],
  ['has-more-glide-than', `(?:has|had)${ADVERB}\\s+more glide`],
  ['finishes-harder-than', `(?:finishes|finished|fades|faded)${ADVERB}\\s+harder`],
  ['skips-farther-than', `(?:skips|skipped)${ADVERB}\\s+(?:farther|further|longer)`],
]
const OF_ALL =
  '(?:\\s+of\\s+(?:all|the\\s+(?:two|three|four|five|six|seven|eight|lot|bunch)|them(?:\\s+all)?|all(?:\\s+of)?\\s+(?:them|these|the discs)|these(?:\\s+discs)?|the discs))?'
const EXTREMES: readonly (readonly [claim: Superlative, pattern: string])[] = [
  ['is the most stable', `${IS}${ADVERB}\\s+the\\s+most\\s+(?:over)?stable`],
  ['is the least stable', `${IS}${ADVERB}\\s+the\\s+(?:least\\s+(?:over)?stable|most\\s+understable)`],
  [
    'flies the farthest',
    `(?:flies|flew|goes|went|carries|carried)${ADVERB}\\s+(?:the\\s+)?(?:farthest|furthest)`,
  ],
  ['flies the straightest', `${IS}${ADVERB}\\s+the\\s+straightest`],
]

/** A claim may end where its clause ends, or before its probability. */
const ENDS = '(?=\\s*(?:[.,;:!)–—]|\\(\\d|$|\\b(?:and|but|while)\\b))'

type Reading = (groups: readonly (string | undefined)[]) => SaidClaim | undefined

/** Every way a claim is said about these discs, as a pattern and what it reads as. */
function waysOf(naming: Naming): readonly (readonly [RegExp, Reading])[] {
  const called = new Map<string, string | undefined>()
  for (const { disc, names } of naming)
    for (const name of names) {
      const key = name.trim().toLowerCase().replace(/\s+/g, ' ')
      if (key === '') continue
      called.set(key, called.has(key) && called.get(key) !== disc ? undefined : disc)
    }
  if (called.size === 0) return []
  const discOf = (text: string | undefined) => text && called.get(text.toLowerCase().replace(/\s+/g, ' '))
  const names = [...called.keys()].sort((a, b) => b.length - a.length).map(escaped)
  const disc = `(?:the\\s+)?(${names.join('|')})`
  const two = (of: (disc: string, than: string) => SaidClaim): Reading => {
    return ([one, other]) => {
      const [a, b] = [discOf(one), discOf(other)]
      return a !== undefined && b !== undefined && a !== b ? of(a, b) : undefined
    }
  }
  const one = (of: (disc: string) => SaidClaim): Reading => {
    return ([name]) => {
      const a = discOf(name)
      return a === undefined ? undefined : of(a)
    }
  }
  const pattern = (text: string) => new RegExp(`(?<![\\p{L}\\p{N}-])${text}${ENDS}`, 'giu')
  const alike = two((a, b) => ({ says: 'fly alike', disc: a, than: b }))
  return [
    ...COMPARISONS.map(
      ([says, words]) =>
        [
          pattern(`${disc}\\s+${words}\\s+than\\s+${disc}`),
          two((a, b) => ({ says, disc: a, than: b })),
        ] as const,
    ),
    ...EXTREMES.map(
      ([says, words]) => [pattern(`${disc}\\s+${words}${OF_ALL}`), one((a) => ({ says, disc: a }))] as const,
    ),
    [
      pattern(
        `${disc}\\s+and\\s+${disc}\\s+(?:fly|flew|are|were)\\s+(?:alike|the\\s+same|identical|identically|equally\\s+stable)`,
      ),
      alike,
    ],
    [
      pattern(
        `${disc}\\s+(?:is|flies|flew)\\s+(?:identical\\s+to|the\\s+same\\s+as|just\\s+like|as\\s+stable\\s+as)\\s+${disc}`,
      ),
      alike,
    ],
    [
      pattern(
        `${disc}\\s+(?:is|flies|flew|was|stays)${ADVERB}\\s+true\\s+to\\s+(?:its|the)\\s+(?:numbers|label)`,
      ),
      one((a) => ({ says: 'is true to its numbers', disc: a })),
    ],
  ]
}

/** Sentences of a text with where they begin. */
function sentencesOf(text: string): { readonly at: number; readonly text: string }[] {
  const ends = [...text.matchAll(/[.!?](?=\s|$)|\n/g)].map((m) => m.index + 1)
  const bounds = [0, ...ends, text.length]
  return bounds.slice(1).flatMap((end, i) => {
    const at = bounds[i]!
    return end > at ? [{ at, text: text.slice(at, end) }] : []
  })
}

/**
 * Claims about discs in a text: comparisons, superlatives, that two fly alike, that one is true to its numbers. Only what is said
 * plainly is found; a sentence that denies, doubts, quotes, asks, or names a condition is left alone, so that what is found can be
 * judged as it stands.
 *
 * @param text one paragraph
 */
export function claimsIn(text: string, naming: Naming): FoundClaim[] {
  const ways = waysOf(naming)
  return sentencesOf(text).flatMap((sentence) => {
    if (GUARDS.test(sentence.text)) return []
    const found = ways
      .flatMap(([pattern, read]) =>
        [...sentence.text.matchAll(pattern)].flatMap((m) => {
          const claim = read(m.slice(1))
          return claim ? [{ from: m.index, to: m.index + m[0].length, claim }] : []
        }),
      )
      .sort((a, b) => a.from - b.from || b.to - a.to)
    // what stands before the first one, and between one and the next, must leave it as it is
    const kept: FoundClaim[] = []
    let from = 0
    for (const f of found) {
      if (f.from < from) continue
      const share = /^\s*\(\d+\s*%\)/
      const before = sentence.text.slice(from, f.from).replace(share, '')
      if (!LEAD.test(before.slice(before.lastIndexOf(';') + 1))) break
      const after = sentence.text.slice(f.to).replace(share, '')
      if (CONDITION.test(after)) break
      kept.push({ ...f, from: sentence.at + f.from, to: sentence.at + f.to })
      from = f.to
    }
    return kept
  })
}
