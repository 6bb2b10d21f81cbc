/** Endings of files a recorded path comes in. Apart from their readers, which are heavy. */
export const PATH_FILES = ['.csv', '.gpx', '.geojson', '.json'] as const
