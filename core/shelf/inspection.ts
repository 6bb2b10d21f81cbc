/** What is measured of a disc in the hand; millimetres and degrees, null where nobody measured. */
export interface Measured {
  readonly diameterMm: number | null
  /** Base of the rim to the top of the dome. */
  readonly heightMm: number | null
  /** Base of the rim to the underside of the flight plate. */
  readonly rimDepthMm: number | null
  readonly rimWidthMm: number | null
  /** Base of the rim to the parting line, where the rim is widest. */
  readonly partingLineMm: number | null
  /** How far the middle stands above the shoulder; negative for a top that is sunk in. */
  readonly domeMm: number | null
  /** Slope of the lower face of the rim against the level, at the parting line. */
  readonly noseDeg: number | null
  readonly bead: boolean | null
  /** Step of {@link EDGES}. */
  readonly edge: number | null
  /** Step of {@link FEEL}. */
  readonly stiffness: number | null
  readonly grip: number | null
}

/** Edges, from blunt to sharp. */
export const EDGES = ['blunt', 'rather blunt', 'in between', 'rather sharp', 'sharp'] as const
/** How a disc feels, in ordered steps. */
export const FEEL = {
  stiffness: ['gummy', 'soft', 'in between', 'firm', 'stiff'],
  grip: ['slick', 'rather slick', 'in between', 'grippy', 'tacky'],
} as const

/** Beyond these a figure is a slip of the pen. Generous about what flying discs measure. */
export const INSPECTION_RANGE = {
  diameterMm: [180, 300],
  heightMm: [10, 40],
  rimDepthMm: [5, 25],
  rimWidthMm: [4, 27],
  partingLineMm: [1, 25],
  domeMm: [-3, 12],
  noseDeg: [5, 85],
  warpMm: [0, 10],
} as const satisfies Record<string, readonly [number, number]>
