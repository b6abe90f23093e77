import { Alert, Form, Input, Modal, Radio, Segmented } from 'antd';
import { useState, type ReactElement } from 'react';
import { useNavigate } from 'react-router';
import { inUnit, lengthUnits, type LengthUnit } from '@gull-pane/core/drawing/units';
import { readLength } from '@gull-pane/core/typed/typed-number';
import { hasEnded } from '@gull-pane/protocol/jobs';
import { api } from '../api/client';
import { FigureField } from '../controls/figure-field';
import { troubleOf, type Trouble } from '../store/drawings-store';

interface Asked {
  readonly name: string;
  readonly kind: 'flat' | 'solid';
  readonly unit: LengthUnit;
  readonly tolerance: number;
  readonly gridStep: number;
}

/** What a drawing in a unit begins with: a tenth of a millimetre, and a grid of a metre or a foot. */
const usual = (unit: LengthUnit): Pick<Asked, 'tolerance' | 'gridStep'> => ({
  tolerance: Number(inUnit(0.1, 'mm', unit).toPrecision(1)),
  gridStep: unit === 'mm' ? 1000 : unit === 'in' ? 12 : 1,
});
const first: Asked = { name: '', kind: 'flat', unit: 'mm', ...usual('mm') };
/** Between two looks whether it is there, ms, and how often it is looked. */
const LOOK_MS = 150;
const MOST_LOOKS = 200;

/** Begins an empty drawing and opens it. */
export function BeginDialog({ onClose }: { readonly onClose: () => void }): ReactElement {
  const [asked, setAsked] = useState(first);
  const [isBusy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const navigate = useNavigate();
  const change = (more: Partial<Asked>): void => setAsked({ ...asked, ...more });
  const begin = async (): Promise<void> => {
    setBusy(true);
    setTrouble(null);
    try {
      const { drawingId, jobId } = await api.begin({ ...asked, name: asked.name.trim() });
      for (let look = 0; look < MOST_LOOKS; look++) {
        if (hasEnded((await api.job(jobId)).state)) break;
        await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
      }
      onClose();
      await navigate(`/d/${drawingId}`);
    } catch (error) {
      setTrouble(troubleOf(error));
      setBusy(false);
    }
  };
  return (
    <Modal
      open
      title="Begin a drawing"
      okText="Begin"
      okButtonProps={{ disabled: asked.name.trim() === '' }}
      confirmLoading={isBusy}
      onOk={() => void begin()}
      onCancel={onClose}
    >
      {trouble && <Alert type="error" role="alert" title={trouble.title} description={trouble.hint} />}
      <Form layout="vertical">
        <Form.Item label="Name" htmlFor="begin-name">
          <Input
            id="begin-name"
            autoFocus
            maxLength={200}
            value={asked.name}
            onChange={(event) => change({ name: event.target.value })}
            onPressEnter={() => {
              if (asked.name.trim() !== '') void begin();
            }}
          />
        </Form.Item>
        <Form.Item label="Kind">
          <Radio.Group
            aria-label="Kind"
            value={asked.kind}
            options={[
              { value: 'flat', label: 'Flat, a plan' },
              { value: 'solid', label: 'Solid, a model' },
            ]}
            onChange={(event) => change({ kind: event.target.value as Asked['kind'] })}
          />
        </Form.Item>
        <Form.Item label="Unit">
          <Segmented<LengthUnit>
            aria-label="Unit"
            value={asked.unit}
            options={[...lengthUnits]}
            onChange={(unit) => change({ unit, ...usual(unit) })}
          />
        </Form.Item>
        <Form.Item label="Tolerance: what lies nearer is one">
          <FigureField
            label="Tolerance: what lies nearer is one"
            min={0}
            step={asked.tolerance}
            value={asked.tolerance}
            read={(text) => readLength(text, asked.unit)}
            suffix={asked.unit}
            onSet={(tolerance) => change({ tolerance })}
          />
        </Form.Item>
        <Form.Item label="Grid, 0 for none">
          <FigureField
            label="Grid, 0 for none"
            min={0}
            value={asked.gridStep}
            read={(text) => readLength(text, asked.unit)}
            suffix={asked.unit}
            onSet={(gridStep) => change({ gridStep })}
          />
        </Form.Item>
      </Form>
    </Modal>
  );
}
