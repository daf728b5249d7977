'use client';

import { useCallback } from 'react';
import { emptyMessage, messageKinds, putReading, usualOnOff, type OwnReading } from '../../../core/show';
import { Checkbox, NumberField } from '../../kit';
import { MessageFields } from './message-fields';
import { OwnDialog, type OwnDialogProps } from './own-dialog';
import { ShapeFields } from './shape-fields';
import { SourceFields } from './source-fields';
import { SameAsField } from './same-as-field';
import { useOwnForm } from './use-own-form';

/** A reading that the show adds to a device: where it is found, what it is, and how it is asked for. */
export function ReadingDialog(props: OwnDialogProps<OwnReading>) {
  const { document, additions, role, id, initial, onSave, onClose } = props;
  const put = useCallback((own: OwnReading) => putReading(document, additions, id, own), [document, additions, id]);
  const { own, set, wrong, others: problems, isSubmitting, onSubmit } = useOwnForm(initial, put, onSave);
  const [kind] = messageKinds(document);
  const { ask } = own;
  const { [id ?? '']: _itself, ...others } = { ...document.readings, ...additions?.readings };
  const isAskable = own.source.in !== 'modbus' && own.source.in !== 'others';
  return (
    <OwnDialog
      what="reading"
      isNew={id === undefined}
      name={own.title}
      wrongName={wrong.title}
      problems={problems}
      isSubmitting={isSubmitting}
      onName={(title) => set({ title })}
      onSubmit={onSubmit}
      onClose={onClose}
    >
      <SourceFields
        document={document}
        source={own.source}
        readings={others}
        wrong={wrong}
        onChange={(source) => set({ source })}
      />
      <ShapeFields shape={own.value} use="heard" onOff={usualOnOff(document)} onChange={(value) => set({ value })} />
      {own.source.in === 'modbus' ? (
        <NumberField
          label="Ask every"
          unit="ms"
          min={100}
          max={600_000}
          value={own.everyMs}
          onCommit={(everyMs) => set({ everyMs })}
        />
      ) : (
        kind &&
        isAskable && (
          <Checkbox
            label="Ask for it regularly"
            checked={ask !== undefined}
            onChange={(isAsked) =>
              set({ ask: isAsked ? { message: emptyMessage(kind, document), everyMs: 2000 } : undefined })
            }
          />
        )
      )}
      {ask && isAskable && (
        <>
          <MessageFields
            document={document}
            message={ask.message}
            known={[]}
            wrong={wrong}
            onChange={(message) => set({ ask: { ...ask, message } })}
          />
          <NumberField
            label="Ask every"
            unit="ms"
            min={100}
            max={600_000}
            value={ask.everyMs}
            onCommit={(everyMs) => set({ ask: { ...ask, everyMs } })}
          />
        </>
      )}
      <SameAsField
        role={role}
        kind="readings"
        name={own.sameAs?.name}
        wrong={wrong.sameAs}
        onChoose={(name) => set({ sameAs: name === undefined ? undefined : { role, name } })}
      />
    </OwnDialog>
  );
}
