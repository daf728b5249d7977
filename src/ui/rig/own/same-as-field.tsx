import { contractNames, contractWords, valuesInContract } from '../../../core/show';
import { Select } from '../../kit';

interface Props {
  /** The role of the device. */
  readonly role: string;
  readonly kind: 'commands' | 'readings';
  readonly name: string | undefined;
  /** Of a command: what it takes. */
  readonly params?: Parameters<typeof valuesInContract>[2];
  readonly onChoose: (name: string | undefined) => void;
}

/**
 * As what other devices of the role know a command or reading. Where a zone picks among several devices, a control that was made for one of
 * the others then drives this one, too. Roles whose devices have nothing in common have no such field.
 */
export function SameAsField({ role, kind, name, params, onChoose }: Props) {
  const names = contractNames(role, kind);
  if (names.length === 0) return null;
  const values = name === undefined || !params ? [] : Object.entries(valuesInContract(role, name, params));
  return (
    <div className="grid gap-1">
      <Select
        label={`Same as on every ${role}`}
        value={name ?? ''}
        options={[
          { value: '', title: 'nothing: only this device has it' },
          ...names.map((each) => ({ value: each, title: contractWords(each) })),
        ]}
        onChoose={(next) => onChoose(next === '' ? undefined : next)}
      />
      <p className="text-[14px] text-ink-soft">
        {values.length > 0
          ? `${values.map(([known, own]) => `“${own}” is the ${contractWords(known)}`).join(', ')}. `
          : ''}
        Controls made for another {role} use it when their zone picks this one.
      </p>
    </div>
  );
}
