/** Niceness of imports: the server has 0. */
export const IMPORT_PRIORITY = 10;
/** Of large ones, so that small files beside them are soon there. */
export const LOWEST_PRIORITY = 19;
