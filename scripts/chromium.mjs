// Debian's headless Chromium, as the browser tests and the pictures start it.
export const CHROMIUM = '/usr/bin/chromium'
export const CHROMIUM_ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]
