// What `npm run work` needs of the project, in one place, so that it can be bundled.
export { copySettingsOf } from '../server/custody/settings.ts'
export { startWork } from '../server/work/apart.ts'
export { sayError } from '../server/work/sayError.ts'
