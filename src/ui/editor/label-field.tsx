'use client';

import type { ControlRecord } from '../../core/show';
import { LabelInput } from './label-input';
import { useVerbs } from './verbs';

/** The field of a control's label; the grid puts the cursor there. */
export const labelFieldId = 'control-label';

export function LabelField({ control, name }: { readonly control: ControlRecord; readonly name: string }) {
  const verbs = useVerbs();
  const { label, values } = control.data;
  return (
    <LabelInput
      id={labelFieldId}
      title="Label"
      label={label}
      values={values}
      onLabel={(to) => verbs.change(control, (data) => ({ ...data, label: to }), `Label of ${name}`)}
    />
  );
}
