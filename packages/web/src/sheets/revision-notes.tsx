import { Button } from 'antd';
import { Plus, Trash2 } from 'lucide-react';
import type { ReactElement } from 'react';
import { MOST_REVISION_NOTES, type RevisionNoteDto } from '@gull-pane/protocol/sheet-sets';
import { TextField } from './text-field';

interface RevisionNotesProps {
  readonly notes: readonly RevisionNoteDto[];
  readonly onSet: (notes: RevisionNoteDto[]) => void;
}

/** The rows of the table of revisions, the oldest first. */
export function RevisionNotes({ notes, onSet }: RevisionNotesProps): ReactElement {
  const field = (row: number, key: keyof RevisionNoteDto, label: string): ReactElement => (
    <TextField
      label={label}
      value={notes[row]![key]}
      onSet={(text) => onSet(notes.map((note, k) => (k === row ? { ...note, [key]: text } : note)))}
    />
  );
  return (
    <details>
      <summary>{`Table of revisions: ${notes.length} ${notes.length === 1 ? 'row' : 'rows'}`}</summary>
      <ol className="revision-notes">
        {notes.map((_, row) => (
          <li key={row} aria-label={`Row ${row + 1}`}>
            <div className="sheet-pair">
              {field(row, 'revision', 'Revision')}
              {field(row, 'date', 'Date')}
            </div>
            {field(row, 'what', 'What was changed')}
            <div className="revision-note-end">
              {field(row, 'author', 'By')}
              <Button
                type="text"
                size="small"
                icon={<Trash2 size={14} aria-hidden />}
                aria-label={`Delete row ${row + 1}`}
                onClick={() => onSet(notes.filter((_note, k) => k !== row))}
              />
            </div>
          </li>
        ))}
      </ol>
      {notes.length < MOST_REVISION_NOTES && (
        <Button
          size="small"
          icon={<Plus size={14} aria-hidden />}
          onClick={() => {
            const date = new Date().toLocaleDateString('en-CA');
            onSet([...notes, { revision: '', date, what: '', author: '' }]);
          }}
        >
          Add a row
        </Button>
      )}
    </details>
  );
}
