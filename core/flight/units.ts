/** So many radians are a degree. */
export const DEGREE = Math.PI / 180
/** So many rad/s are a revolution a minute. */
export const RPM = Math.PI / 30
/** So many metres are an international foot. */
export const FOOT = 0.3048
/** So many m/s are a mile an hour. */
export const MPH = 0.44704
