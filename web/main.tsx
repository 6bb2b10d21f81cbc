import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { SWRConfig } from 'swr'
import { ApiProblem } from './data/api.ts'
import { offWords } from '../core/throw/clock.ts'
import { onPutRight, outbox } from './data/outbox.ts'
import { NotKept } from './data/queueStore.ts'
import { PreferencesProvider } from './data/preferences.tsx'
import { bringForward } from './data/remembered.ts'
import { install, justUpdated } from './data/update.ts'
import { Toasts } from './parts/Toasts.tsx'
import { say, sayWrong } from './data/say.ts'
import { App } from './shell/App.tsx'
import './theme.css'

let saidOff = false
onPutRight((offMs) => {
  if (saidOff) return
  saidOff = true
  say(
    `The clock of this device is ${offWords(offMs)}. Days and times of what it logged were put right by the server’s; set its clock, so that what it shows is right too.`,
  )
})
outbox.open().catch((e: Error) => sayWrong(e.message))
// whatever was to be kept and could not be is said, wherever it was asked for
window.addEventListener('unhandledrejection', (event) => {
  if (!(event.reason instanceof NotKept)) return
  event.preventDefault()
  sayWrong(event.reason.message)
})
// built and served, the app opens without its server
if (import.meta.env.PROD) window.addEventListener('load', install)
if (justUpdated()) say('The app was updated. Nothing you kept was lost.')
window.addEventListener('online', () => outbox.send())

await bringForward()
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <SWRConfig
      value={{ shouldRetryOnError: (e: unknown) => !(e instanceof ApiProblem), errorRetryInterval: 2000 }}
    >
      <PreferencesProvider>
        <App />
        <Toasts />
      </PreferencesProvider>
    </SWRConfig>
  </StrictMode>,
)
