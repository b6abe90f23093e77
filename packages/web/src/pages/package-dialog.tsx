import { Alert, Button, Modal, Radio, Spin } from 'antd';
import { useEffect, useState, type ReactElement } from 'react';
import { numbersOfRanges } from '@gull-pane/core/drawing/ranges';
import type { PackageCountsDto, ReceivedPackageDto, Taking } from '@gull-pane/protocol/packages';
import { api } from '../api/client';
import { packagesApi } from '../api/packages-api';
import { troubleOf, useDrawings, type Trouble } from '../store/drawings-store';
import { useNotes } from '../store/notes-store';
import { usePickSets } from '../store/pick-sets-store';

interface DialogProps {
  readonly file: File;
  readonly onClose: () => void;
}

/** A package is sent and looked at; what it would do is told before it is done. */
export function PackageDialog({ file, onClose }: DialogProps): ReactElement {
  const [told, setTold] = useState<ReceivedPackageDto | null>(null);
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [how, setHow] = useState<Taking>('new');
  const [isBusy, setBusy] = useState(false);
  useEffect(() => {
    let isCurrent = true;
    packagesApi.send(file).then(
      (received) => {
        if (!isCurrent) return;
        setTold(received);
        setHow(received.nameHere === undefined ? 'new' : 'merge');
      },
      (error: unknown) => {
        if (isCurrent) setTrouble(troubleOf(error));
      },
    );
    return () => {
      isCurrent = false;
    };
  }, [file]);
  const take = async (): Promise<void> => {
    setBusy(true);
    try {
      const { drawingId, added, pickSets } = await packagesApi.take(told!.id, how);
      const { revision } = await api.drawing(drawingId);
      // a new content has the next number once it is there
      const key = `${drawingId} ${how === 'merge' ? revision : revision + 1}`;
      for (const { name, objects } of pickSets)
        usePickSets.getState().keep(key, { name, objects: numbersOfRanges(objects, Infinity) });
      useNotes.getState().tell('done', `Taken over: ${inWords(added)}`);
      await useDrawings.getState().refresh();
      onClose();
    } catch (error) {
      setTrouble(troubleOf(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Modal
      open
      title={`Package “${file.name}”`}
      width={520}
      onCancel={onClose}
      footer={
        <>
          <Button onClick={onClose}>{trouble ? 'Close' : 'Take nothing'}</Button>
          {told && (
            <Button type="primary" loading={isBusy} onClick={() => void take()}>
              {how === 'new'
                ? 'Take it as a new drawing'
                : how === 'merge'
                  ? 'Add what is missing'
                  : 'Replace what is here'}
            </Button>
          )}
        </>
      }
    >
      {trouble && (
        <Alert type="error" title={trouble.title} description={`${trouble.detail} ${trouble.hint}`.trim()} showIcon />
      )}
      {!told && !trouble && (
        <p role="status">
          <Spin size="small" /> The package is being looked at …
        </p>
      )}
      {told && <Told told={told} how={how} onHow={setHow} />}
    </Modal>
  );
}

interface ToldProps {
  readonly told: ReceivedPackageDto;
  readonly how: Taking;
  readonly onHow: (how: Taking) => void;
}

function Told({ told, how, onHow }: ToldProps): ReactElement {
  const { drawing, holds, known, nameHere, writtenAt } = told;
  return (
    <div className="package-told">
      <p>
        <strong>{drawing.name}</strong>, written {writtenAt.slice(0, 10)}: {inWords(holds)}.
      </p>
      {nameHere === undefined ? (
        <p>This drawing isn’t here yet: it becomes a new one.</p>
      ) : (
        <>
          <p>
            It is here already, as <strong>{nameHere}</strong>; of what the package holds, {inWords(known)} are here,
            too.
          </p>
          <Radio.Group
            aria-label="What becomes of it"
            className="package-ways"
            value={how}
            options={[
              { value: 'merge', label: 'Add what is missing; nothing that is here changes' },
              { value: 'replace', label: 'Replace the drawing that is here, its views, tours and sheets' },
              { value: 'new', label: 'Make a second drawing of it' },
            ]}
            onChange={(event) => onHow(event.target.value as Taking)}
          />
        </>
      )}
    </div>
  );
}

/** “3 views, 1 tour”; “nothing” of nothing. */
function inWords({ cards, tours, arrangements, pickSets }: PackageCountsDto): string {
  const part = (count: number, one: string, many: string): string[] =>
    count === 0 ? [] : [`${count} ${count === 1 ? one : many}`];
  const parts = [
    ...part(cards, 'view', 'views'),
    ...part(tours, 'tour', 'tours'),
    ...part(arrangements, 'arrangement', 'arrangements'),
    ...part(pickSets, 'picked set', 'picked sets'),
  ];
  return parts.length > 0 ? parts.join(', ') : 'no views';
}
