/** Of PostgreSQL: the connection was ended or could not be made (Appendix A of its manual, classes 08 and 57P). */
const SQL_STATES = /^(08\d\w\d|57P0[1-5])$/;
const SYSTEM_CODES = new Set(['ECONNRESET', 'ECONNREFUSED', 'EPIPE', 'ENOENT', 'ETIMEDOUT', 'EHOSTUNREACH']);
const MESSAGES = /Connection terminated|connection timeout|timeout exceeded when trying to connect|not queryable/i;

/** Whether an error only means that the database was out of reach for a moment. */
export function isLostConnection(error: unknown): boolean {
  for (let one = error; one instanceof Error; one = one.cause) {
    const { code, syscall } = one as NodeJS.ErrnoException;
    if (code !== undefined && SQL_STATES.test(code)) return true;
    // files are missing with the same code as sockets
    if (code !== undefined && SYSTEM_CODES.has(code) && (syscall === undefined || /connect|read|write/.test(syscall)))
      return code !== 'ENOENT' || syscall === 'connect';
    if (MESSAGES.test(one.message)) return true;
  }
  return false;
}

const PAUSE_MS = 500;

/** Does something that is harmless to do twice until the database is there, for so long, s. */
export async function whileConnectionReturns<T>(seconds: number, work: () => Promise<T>): Promise<T> {
  const beganMs = performance.now();
  for (;;) {
    try {
      return await work();
    } catch (error) {
      if (!isLostConnection(error) || performance.now() - beganMs > 1000 * seconds) throw error;
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    }
  }
}
