import { Suspense, lazy, useState, type ComponentType, type LazyExoticComponent, type ReactElement } from 'react';
import { PartBoundary } from './part-boundary';

type Part<Props> = (props: Props) => ReactElement | null;
type Loading<Props> = LazyExoticComponent<ComponentType<Props>>;

/**
 * A part of the page whose code is loaded when the part is first rendered; until then nothing is shown. If loading or
 * rendering fails, a message with a retry button is shown in its place.
 */
export function later<Props extends object>(load: () => Promise<ComponentType<Props>>): Part<Props> {
  const begin = (): Loading<Props> => lazy(async () => ({ default: await load() }));
  let begun = begin();
  return function Later(props) {
    const [Loaded, setLoaded] = useState<Loading<Props>>(() => begun);
    const retry = (): void => {
      begun = begin(); // a failed promise stays failed
      setLoaded(() => begun);
    };
    return (
      <PartBoundary name="This part" onRetry={retry}>
        <Suspense fallback={null}>
          <Loaded {...props} />
        </Suspense>
      </PartBoundary>
    );
  };
}

/**
 * The same for what is always there but rarely seen, as a dialog: its code comes when it is first wanted. From then on
 * it stays, so that it can close by itself.
 * @param useIsWanted a hook that tells whether it is wanted
 */
export function laterWhen<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
  useIsWanted: (props: Props) => boolean,
): Part<Props> {
  const Loaded = later(load);
  return function LaterWhen(props) {
    const isWanted = useIsWanted(props);
    const [hasCome, setHasCome] = useState(isWanted);
    if (isWanted && !hasCome) setHasCome(true);
    return hasCome ? <Loaded {...props} /> : null;
  };
}
