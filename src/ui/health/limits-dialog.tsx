'use client';

import {
  concernCodes,
  limitRanges,
  limitWords,
  usualLimits,
  type ConcernCode,
  type HealthLimits,
  type ShowRecord,
} from '../../core/show';
import { useDesk, useShow } from '../desk';
import { Button, Dialog, NumberField, Switch } from '../kit';

/** From where on each thing counts as beyond its limit, for this show. */
export function LimitsDialog() {
  const { show } = useShow();
  const desk = useDesk();
  const record = show?.records.find((each): each is Extract<ShowRecord, { kind: 'show' }> => each.kind === 'show');
  if (!record) return null;
  const limits = record.data.health ?? usualLimits;
  const change = (to: HealthLimits, what: string) =>
    void desk.edit({
      title: `Health limit: ${what}`,
      changes: [{ op: 'update', from: record, to: { ...record, data: { ...record.data, health: to } } }],
    });
  return (
    <Dialog
      title="Limits"
      size="wide"
      trigger={<Button>Limits …</Button>}
      description="The desk, and panels with notices switched on, are told when a value exceeds its limit. The limits are saved with the show."
      acts={
        record.data.health && (
          <Button
            onClick={() => {
              const { health: _, ...data } = record.data;
              void desk.edit({
                title: 'Usual health limits',
                changes: [{ op: 'update', from: record, to: { ...record, data } }],
              });
            }}
          >
            Restore the usual limits
          </Button>
        )
      }
    >
      <ul>
        {concernCodes.map((code) => (
          <LimitRow key={code} code={code} limits={limits} onChange={change} />
        ))}
      </ul>
    </Dialog>
  );
}

interface RowProps {
  readonly code: ConcernCode;
  readonly limits: HealthLimits;
  readonly onChange: (to: HealthLimits, what: string) => void;
}

function LimitRow({ code, limits, onChange }: RowProps) {
  const { title, unit } = limitWords[code];
  const isOn = !limits.off.includes(code);
  const off = limits.off.filter((each) => each !== code);
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_88px_44px] items-center gap-x-4 border-t border-rule py-1.5 first:border-t-0">
      <Switch
        label={title}
        checked={isOn}
        onChange={(checked) => onChange({ ...limits, off: checked ? off : [...off, code] }, title)}
      />
      {code !== 'down' && (
        <>
          <NumberField
            label={`Limit: ${title}`}
            labelAt="hidden"
            min={limitRanges[code].min}
            max={limitRanges[code].max}
            step={code === 'slow' || code === 'clock' ? 0.5 : 1}
            value={limits[code]}
            disabled={!isOn}
            className="[&_input]:w-full"
            onCommit={(to) => onChange({ ...limits, [code]: to }, title)}
          />
          <span className="text-ink-soft">{unit}</span>
        </>
      )}
    </li>
  );
}
