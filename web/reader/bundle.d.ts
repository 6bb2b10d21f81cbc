/** The reader’s panel with the flight code as one script; see scripts/reader.mjs. */
declare module 'virtual:reader' {
  const code: string
  export default code
}
