/** Where the app under test listens, and where it is told to begin anew. */
export const PORT = Number(process.env['VEER_TEST_PORT'] ?? 4469)
export const CONTROL_PORT = PORT + 1
