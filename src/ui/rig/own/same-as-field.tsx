import { contractNames, contractWords, valuesInContract } from '../../../core/show';
import { Select } from '../../kit';

interface Props {
  /** The role of the device. */
  readonly role: string;
  readonly kind: 'commands' | 'readings';
  readonly name: string | undefined;
  /** Of a command: what it takes. */
  readonly params?: Parameters<typeof valuesInContract>[2];
  readonly wrong: string | undefined;
  readonly onChoose: (name: string | undefined) => void;
}

/**
 * The name by which all devices of a role know a command or reading. In a zone that picks among several devices, a control that was made for
 * one of them then drives this one as well. Roles without common names have no such field.
 */
export function SameAsField({ role, kind, name, params, wrong, onChoose }: Props) {
  const names = contractNames(role, kind);
  if (names.length === 0) return null;
  const values = name === undefined || !params ? [] : Object.entries(valuesInContract(role, name, params));
  return (
    <div className="grid gap-1">
      <Select
        label={`Standard ${role} ${kind === 'commands' ? 'command' : 'reading'}`}
        value={name ?? ''}
        options={[{ value: '', title: 'none' }, ...names.map((each) => ({ value: each, title: contractWords(each) }))]}
        onChoose={(next) => onChoose(next === '' ? undefined : next)}
      />
      {wrong !== undefined && (
        <p className="text-[14px] font-semibold" role="alert">
          {wrong}
        </p>
      )}
      <p className="text-[14px] text-ink-soft">
        {values.length > 0
          ? `${values.map(([known, own]) => `“${own}” is the ${contractWords(known)}`).join(', ')}. `
          : ''}
        A control made for another {role} uses it when its zone picks this device.
      </p>
    </div>
  );
}
