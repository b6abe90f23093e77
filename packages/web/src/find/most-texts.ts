/** Texts that are listed; the others are walked through as hits. */
export const MOST_TEXTS = 8;
