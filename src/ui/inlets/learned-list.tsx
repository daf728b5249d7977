'use client';

import { X } from 'lucide-react';
import { unlearnEdit } from '../../core/inlet';
import { nameOfRecord, type InletRecord, type ShowRecord } from '../../core/show';
import { useDesk } from '../desk';
import { Fold, IconButton } from '../kit';
import { Cross } from '../parts';

/** What an inlet has learned, each with what it does. Learned is beside the control or the macro. */
export function LearnedList({
  records,
  inlet,
}: {
  readonly records: readonly ShowRecord[];
  readonly inlet: InletRecord;
}) {
  const desk = useDesk();
  const { triggers = [] } = inlet.data;
  return (
    <Fold name="Learned">
      {triggers.length === 0 ? (
        <p className="text-[14px] text-ink-soft">
          Nothing yet. A control or a macro learns what is sent next: press Learn under From outside.
        </p>
      ) : (
        <ul className="grid gap-1">
          {triggers.map((trigger) => {
            const target = 'press' in trigger ? trigger.press : trigger.run;
            const record = records.find(({ id }) => id === target);
            return (
              <li key={trigger.text} className="flex items-center gap-1.5 border-b border-rule">
                <span className="grid min-w-0 flex-1">
                  <code className="font-mono text-[13px] break-all">{trigger.text}</code>
                  <span className="truncate text-[13px] text-ink-soft">
                    {record ? (
                      `${'press' in trigger ? 'presses' : 'starts'} ${nameOfRecord(record)}`
                    ) : (
                      <>
                        <Cross /> what it was for no longer exists
                      </>
                    )}
                  </span>
                </span>
                <IconButton
                  label={`Forget ${trigger.text}`}
                  onClick={() => void desk.edit(unlearnEdit({ inlet, text: trigger.text }))}
                >
                  <X size={16} aria-hidden />
                </IconButton>
              </li>
            );
          })}
        </ul>
      )}
    </Fold>
  );
}
