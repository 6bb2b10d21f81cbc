/** An error may quote everything that was to be stored. */
const LONGEST_SAID = 500

const brief = (error: unknown) => String(error).slice(0, LONGEST_SAID)

/** Says what went wrong away from requests, and why, as a line of the log. */
export function sayError(error: unknown): void {
  // one that comes from a thread has what the database said as words alone
  const { cause } = (error ?? {}) as { cause?: { message?: unknown } }
  const because = cause === undefined ? {} : { because: brief(cause.message ?? cause) }
  process.stderr.write(
    `${JSON.stringify({ level: 'error', work: 'away from requests', error: brief(error), ...because })}\n`,
  )
}
