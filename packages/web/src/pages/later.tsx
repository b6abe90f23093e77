import { Suspense, lazy, useState, type ComponentType, type ReactElement } from 'react';

/**
 * A part of the page whose code comes when it is first wanted; from then on it stays, so that it can close by itself.
 * @param useIsWanted a hook that tells whether it is wanted
 */
export function later<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
  useIsWanted: (props: Props) => boolean,
): (props: Props) => ReactElement | null {
  const Part = lazy(async () => ({ default: await load() }));
  return function Later(props) {
    const isWanted = useIsWanted(props);
    const [hasCome, setHasCome] = useState(isWanted);
    if (isWanted && !hasCome) setHasCome(true);
    if (!hasCome) return null;
    return (
      <Suspense fallback={null}>
        <Part {...props} />
      </Suspense>
    );
  };
}
