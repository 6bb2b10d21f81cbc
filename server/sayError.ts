/** An error may quote everything that was to be stored. */
const LONGEST_SAID = 500

/** Says what went wrong away from requests, as a line of the log. */
export const sayError = (error: unknown): void =>
  void process.stderr.write(
    `${JSON.stringify({ level: 'error', work: 'away from requests', error: String(error).slice(0, LONGEST_SAID) })}\n`,
  )
