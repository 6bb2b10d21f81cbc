import { expose } from 'comlink'
import { readPathFile } from '../../core/formats/pathFile.ts'

/** Reads files of recorded paths; a long track takes seconds. */
const reader = { read: readPathFile }

export type PathWorker = typeof reader
expose(reader)
