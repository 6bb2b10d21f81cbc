/** A flight as a camera or a tracker recorded it, in the frame of the throw; one value per point of each. */
export interface RecordedPath {
  /** Distances downrange, m. */
  readonly downM: readonly number[]
  /** To the fade side, m. */
  readonly veerM: readonly number[]
  /** Above ground, m, where heights were recorded. */
  readonly upM?: readonly number[]
  /** Since release, s, where times were recorded. */
  readonly timeS?: readonly number[]
}
