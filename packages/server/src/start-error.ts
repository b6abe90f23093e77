/** Why the server can't start, in one line for the person who started it. */
export class StartError extends Error {
  override readonly name = 'StartError';
}
