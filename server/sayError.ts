/** An error may quote everything that was to be stored. */
const LONGEST_SAID = 500

const brief = (error: unknown) => String(error).slice(0, LONGEST_SAID)

/** Says what went wrong away from requests, and why, as a line of the log. */
export function sayError(error: unknown): void {
  const because = error instanceof Error && error.cause !== undefined ? { because: brief(error.cause) } : {}
  process.stderr.write(
    `${JSON.stringify({ level: 'error', work: 'away from requests', error: brief(error), ...because })}\n`,
  )
}
