import { Suspense, lazy, useState, type ComponentType, type ReactElement } from 'react';

type Part<Props> = (props: Props) => ReactElement | null;

/** A part of the page whose code comes when the part is first rendered; nothing stands in its place meanwhile. */
export function later<Props extends object>(load: () => Promise<ComponentType<Props>>): Part<Props> {
  const Loaded = lazy(async () => ({ default: await load() }));
  return function Later(props) {
    return (
      <Suspense fallback={null}>
        <Loaded {...props} />
      </Suspense>
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
