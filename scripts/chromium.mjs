// Debian's Chromium without a window, as the browser tests and the pictures start it.
export const CHROMIUM = '/usr/bin/chromium-headless-shell'
export const CHROMIUM_ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]
/** What puts an authority into the store of certificates that Chromium reads. */
export const CERTUTIL = '/usr/bin/certutil'
