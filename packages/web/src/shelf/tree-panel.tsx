import { Input, Tree } from 'antd';
import { useEffect, useMemo, useRef, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { Parts } from '../actions/action';
import { grouped } from '../basics/figures';
import { branchesOf, objectsBelow, type Branch } from './model-tree';

/** The model's own tree, in step with what is picked: a branch picks all that hangs on it. */
export function TreePanel({
  target,
  solid,
}: {
  readonly target: Parts<'picked' | 'picks'>;
  readonly solid: SolidTable;
}): ReactElement {
  const { picks } = target;
  const [wanted, setWanted] = useState('');
  const branches = useMemo(() => branchesOf(solid, wanted), [solid, wanted]);
  const picked = useStore(target.picked, (state) => state.picked);
  const [opened, setOpened] = useState<readonly string[]>(() => [
    ...branches.slice(0, 1).map(({ key }) => key),
    ...[...picked].slice(0, 1).flatMap((object) => wayTo(solid, object)),
  ]);
  const selected = useMemo(() => [...picked].map((object) => `o${object}`), [picked]);
  const tree = useRef<React.ComponentRef<typeof Tree<Branch>>>(null);
  const frame = useRef<HTMLDivElement>(null);
  const heightPx = useHeight(frame);

  // what is picked in the pane is opened and brought into sight
  useEffect(
    () =>
      target.picked.subscribe(({ picked: now }, before) => {
        const [first] = now;
        if (now === before.picked || now.size !== 1 || first === undefined) return;
        setOpened((open) => [...new Set([...open, ...wayTo(solid, first)])]);
        requestAnimationFrame(() => tree.current?.scrollTo({ key: `o${first}` }));
      }),
    [target.picked, solid],
  );
  const found = wanted === '' ? null : branches.reduce((sum, { count }) => sum + count, 0);

  return (
    <div className="model-tree">
      <Input
        allowClear
        aria-label="Search the tree"
        placeholder={`Search ${grouped(solid.names.length)} objects`}
        value={wanted}
        onChange={(event) => setWanted(event.target.value)}
      />
      {found !== null && (
        <p role="status" className="muted">
          {found === 0 ? 'No object has such a name.' : found === 1 ? '1 object' : `${grouped(found)} objects`}
        </p>
      )}
      <div ref={frame} className="model-tree-frame">
        <Tree<Branch>
          ref={tree}
          aria-label="Model tree"
          treeData={branches}
          height={heightPx}
          virtual
          multiple
          blockNode
          motion={false}
          expandedKeys={wanted === '' ? [...opened] : branches.flatMap(allKeys)}
          onExpand={(keys) => setOpened(keys.map(String))}
          selectedKeys={selected}
          onSelect={(_, { node, nativeEvent }) => {
            const objects = objectsBelow(node);
            const { shiftKey, ctrlKey, metaKey } = nativeEvent;
            if (!(shiftKey || ctrlKey || metaKey)) void picks.getState().pickObjects(objects);
            else picks.getState().change(objects);
          }}
          titleRender={({ title, count, isObject }) => (
            <span className="model-branch" title={title}>
              <span>{title}</span>
              {!isObject && <span className="figures muted">{grouped(count)}</span>}
            </span>
          )}
        />
      </div>
    </div>
  );
}

/** So many branches are opened by a search. */
const MOST_OPENED = 400;
function allKeys(branch: Branch): string[] {
  if (branch.isObject) return [];
  return [branch.key, ...branch.children.flatMap(allKeys)].slice(0, MOST_OPENED);
}

/** The keys of the branches that an object hangs below. */
function wayTo({ tree, nodes }: SolidTable, object: number): string[] {
  const keys: string[] = [];
  for (let node = nodes[object] ?? -1; node >= 0; node = tree.parents[node] ?? -1) keys.push(`b${node}`);
  return keys;
}

function useHeight(frame: React.RefObject<HTMLElement | null>): number {
  const [heightPx, setHeightPx] = useState(300);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => entry && setHeightPx(Math.max(entry.contentRect.height, 60)));
    observer.observe(frame.current!);
    return () => observer.disconnect();
  }, [frame]);
  return heightPx;
}
