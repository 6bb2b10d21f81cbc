// What `npm start` needs of the project, in one place, so that it can be bundled.
export { keptDemo, ownThrows } from '../demo/away.ts'
export { loadDemoIfEmpty, nature, resetToDemo } from '../demo/load.ts'
export { copySettingsOf } from '../server/custody/settings.ts'
export { playedDevices } from '../server/devices/replay.ts'
export { startServer } from '../server/main.ts'
export { firstWayIn, howToPair } from '../server/share/invite.ts'
export { serverReachOf } from '../server/share/settings.ts'
export { openDatabase } from '../server/store/database.ts'
