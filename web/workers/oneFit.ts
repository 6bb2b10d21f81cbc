/** What is told of a fit before it is there. */
export interface Meanwhile<R> {
  readonly onShare: (share: number) => void
  readonly onFirst: (first: R) => void
}

interface UnderWay<R> {
  readonly key: string
  readonly answer: Promise<R | undefined>
  readonly listening: Set<Meanwhile<R>>
  first?: R
}

/**
 * One fit of a trial at a time, however many screens want it: who asks for the same meanwhile gets the same, and who gave way to
 * another waits for that one before asking again. Else two that want different things would push each other aside for ever.
 */
export class OneFit<R> {
  readonly #under = new Map<string, UnderWay<R>>()

  /**
   * @param key what is weighed: the same has the same
   * @param fit begins it; its answer is undefined where another of the same trial took its place
   * @param wanted whether whoever asked still waits for it
   * @returns undefined where nobody waits any more
   */
  async get(
    trial: string,
    key: string,
    fit: (meanwhile: Meanwhile<R>) => Promise<R | undefined>,
    meanwhile: Meanwhile<R>,
    wanted: () => boolean,
  ): Promise<R | undefined> {
    while (wanted()) {
      const there = this.#under.get(trial)
      const mine = there?.key === key ? there : this.#begin(trial, key, fit)
      mine.listening.add(meanwhile)
      if (mine.first !== undefined) meanwhile.onFirst(mine.first)
      const answer = await mine.answer.finally(() => mine.listening.delete(meanwhile))
      if (answer !== undefined) return answer
      await this.#under.get(trial)?.answer.catch(() => {})
    }
    return undefined
  }

  #begin(trial: string, key: string, fit: (meanwhile: Meanwhile<R>) => Promise<R | undefined>): UnderWay<R> {
    const listening = new Set<Meanwhile<R>>()
    const mine: UnderWay<R> = {
      key,
      listening,
      answer: fit({
        onShare: (share) => listening.forEach((l) => l.onShare(share)),
        onFirst: (first) => {
          mine.first = first
          listening.forEach((l) => l.onFirst(first))
        },
      }),
    }
    this.#under.set(trial, mine)
    const over = () => {
      if (this.#under.get(trial) === mine) this.#under.delete(trial)
    }
    mine.answer.then(over, over)
    return mine
  }
}
