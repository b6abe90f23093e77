import type { ReactElement } from 'react';

/** Something is on its way: a ring that turns, or stands where motion isn't wanted. */
export const Waiting = (): ReactElement => <span className="waiting" aria-hidden />;
