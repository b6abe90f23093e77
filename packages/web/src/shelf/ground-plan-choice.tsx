import { Select } from 'antd';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { GroundPlanStore } from '../store/ground-plan-store';

/** Which plan lies on the ground of a model, where any could. */
export function GroundPlanChoice({ groundPlan }: { readonly groundPlan: GroundPlanStore }): ReactElement | null {
  const offers = useStore(groundPlan, (state) => state.offers) ?? [];
  const plan = useStore(groundPlan, (state) => state.plan);
  if (offers.length === 0) return null;
  return (
    <label className="ground-plan">
      On the ground
      <Select
        size="small"
        aria-label="Plan on the ground"
        value={plan?.drawing.id ?? ''}
        onChange={(id: string) => groundPlan.getState().lay(id === '' ? null : id)}
        options={[{ value: '', label: 'No plan' }, ...offers.map(({ id, name }) => ({ value: id, label: name }))]}
      />
    </label>
  );
}
