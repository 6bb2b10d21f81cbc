import { start } from './starting.mjs'

await start('shelfFit')
