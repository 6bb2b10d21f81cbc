/** Bundles every thread of the server, where that is not done; the folder they are in. */
export function bundleWorkers(): Promise<string>
