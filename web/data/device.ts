import { v7 as newId } from 'uuid'

const KEPT = 'veer-line.device'
const inMemory = newId()

/** This browser, by an id it made. */
export function deviceId(): string {
  try {
    const kept = localStorage.getItem(KEPT)
    if (kept !== null) return kept
    localStorage.setItem(KEPT, inMemory)
  } catch {
    // a browser that stores nothing is another device at every visit
  }
  return inMemory
}
