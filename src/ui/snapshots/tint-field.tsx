'use client';

import { tintSchema, tintTitles, type SnapshotData } from '../../core/show';
import { Select } from '../kit';

interface Props {
  readonly tint: SnapshotData['tint'];
  readonly onChoose: (tint: SnapshotData['tint']) => void;
}

const options = [
  { value: 'none', title: 'None' },
  ...tintSchema.options.map((value) => ({ value, title: tintTitles[value] })),
];

export const TintField = ({ tint, onChoose }: Props) => (
  <Select
    label="Tint"
    value={tint ?? 'none'}
    options={options}
    onChoose={(value) => onChoose(tintSchema.safeParse(value).data)}
  />
);
