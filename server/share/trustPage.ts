import { createHash } from 'node:crypto'
import escapeHtml from 'escape-html'

const STYLE = `
:root { color-scheme: light dark; --ground: #f3f5f1; --ink: #1d2a2c; --quiet: #5c6765; --rule: #d9ded6; --go: #17392f; --on: #fff }
@media (prefers-color-scheme: dark) { :root { --ground: #10191a; --ink: #e9efec; --quiet: #a3b1ae; --rule: #2c3b3f; --go: #f08a4b; --on: #10191a } }
* { box-sizing: border-box }
body { margin: 0 auto; max-width: 34rem; padding: 1.5rem 1.2rem 4rem; font: 1.05rem/1.5 system-ui, sans-serif; background: var(--ground); color: var(--ink) }
h1 { font-size: 1.6rem; line-height: 1.2; margin: 0 0 .5rem }
details { border-top: 1px solid var(--rule); padding: .7rem 0 }
summary { font-weight: 650; cursor: pointer }
.go { display: block; text-align: center; padding: .8rem 1rem; border-radius: .6rem; background: var(--go); color: var(--on); font-weight: 650; text-decoration: none; margin: 1rem 0 }
.print { font-family: ui-monospace, monospace; font-size: .85rem; overflow-wrap: anywhere }
.quiet { color: var(--quiet) }
#told { font-weight: 650 }
[hidden] { display: none !important }
`

/** Looks whether the phone trusts this machine: a page of it answers over HTTPS only where it does. */
const SCRIPT = `
const told = document.getElementById('told'), on = document.getElementById('on')
async function look() {
  try {
    await fetch(on.dataset.at + '/trusted', { cache: 'no-store' })
    told.textContent = 'This phone trusts the machine.'
    on.hidden = false
    document.getElementById('steps').open = false
  } catch {
    told.textContent = 'Not trusted yet; this page looks again by itself.'
    setTimeout(look, 2000)
  }
}
look()
`
const hash = (text: string) => `'sha256-${createHash('sha256').update(text).digest('base64')}'`

/** What the page may do: run its own script, and ask the machine it stands for whether it is trusted. */
export const trustPolicy = (httpsUrl: string): string =>
  `default-src 'none'; style-src ${hash(STYLE)}; script-src ${hash(SCRIPT)}; connect-src ${httpsUrl}; base-uri 'none'; form-action 'none'; frame-ancestors 'none'`

/**
 * The page that hands a phone the authority's certificate, says how to have it trusted, and looks whether it is.
 *
 * @param httpsUrl where the app is once it is trusted
 * @param fingerprint of the certificate, to be compared
 */
export const trustPage = (httpsUrl: string, fingerprint: string): string => `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<meta name="color-scheme" content="light dark">
<title>Let this phone trust the machine</title>
<style>${STYLE}</style>
<h1>Let this phone trust the machine</h1>
<p>Veer Line works without a network only where the phone knows the machine it came from. That is done once a phone.</p>
<p id="told" role="status">Looking whether this phone trusts the machine …</p>
<a class="go" id="on" hidden href="${escapeHtml(httpsUrl)}/pair" data-at="${escapeHtml(httpsUrl)}">Go on and pair this phone</a>
<details id="steps" open>
<summary>1. Take the certificate</summary>
<a class="go" href="/veer-line.crt">Take the certificate</a>
<p>It says to this phone: pages of that one machine are what they say they are. It reads nothing on the phone.</p>
</details>
<details open>
<summary>2. Have it trusted: iPhone, iPad</summary>
<ol><li>Settings, General, VPN &amp; Device Management: choose “Veer Line on this machine”, Install.</li>
<li>Settings, General, About, Certificate Trust Settings: switch it on.</li></ol>
</details>
<details>
<summary>2. Have it trusted: Android</summary>
<ol><li>Settings, Security &amp; privacy, More security settings, Encryption &amp; credentials, Install a certificate, CA certificate.</li>
<li>Choose Install anyway and the file veer-line.crt. In Firefox, also: Settings, About, touch the logo five times, back, Secret settings, Use third party CA certificates.</li></ol>
</details>
<details>
<summary>2. Have it trusted: a laptop</summary>
<ol><li>macOS: open the file, add it to the login keychain, open it there, Trust: Always.</li>
<li>Windows: open the file, Install Certificate, Current User, Trusted Root Certification Authorities.</li>
<li>Linux, Chromium: Settings, Privacy and security, Security, Manage certificates, Authorities, Import. Firefox: Settings, Privacy &amp; Security, View Certificates, Authorities, Import.</li></ol>
</details>
<p class="quiet">Compare before you trust it: the terminal and Settings of the machine show the same SHA-256.</p>
<p class="print">${escapeHtml(fingerprint)}</p>
<p class="quiet">To undo it, take “Veer Line on this machine” out of where it was put.</p>
<script>${SCRIPT}</script>
</html>
`
