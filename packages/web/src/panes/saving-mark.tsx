import { Check, CloudOff, LoaderCircle } from 'lucide-react';
import type { ReactElement } from 'react';
import { useSaver } from '../store/saver';

/** Whether what was kept and changed is on the server. */
export function SavingMark(): ReactElement | null {
  const { waiting, isReachable, savedAtMs } = useSaver();
  const state = !isReachable ? 'away' : waiting > 0 ? 'saving' : savedAtMs === null ? 'none' : 'saved';
  if (state === 'none') return null;
  const [Icon, words] = {
    away: [CloudOff, waitingInWords(waiting)] as const,
    saving: [LoaderCircle, 'Saving'] as const,
    saved: [Check, 'Saved'] as const,
  }[state];
  return (
    <span className="saving-mark" data-state={state} role="status" aria-label="Saving">
      <Icon size={14} aria-hidden />
      {words}
    </span>
  );
}

function waitingInWords(waiting: number): string {
  if (waiting === 0) return 'The server can’t be reached; trying again';
  const changes = waiting === 1 ? '1 change waits' : `${waiting} changes wait`;
  return `The server can’t be reached: ${changes} here and will be saved when it is back`;
}
