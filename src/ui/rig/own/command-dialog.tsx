'use client';

import { useCallback } from 'react';
import { canSendAgain, confirmAfter, putCommand, unknownHoles, usualOnOff, type OwnCommand } from '../../../core/show';
import { Checkbox, NumberField, Select } from '../../kit';
import { ConfirmFields } from './confirm-fields';
import { MessageFields } from './message-fields';
import { OwnDialog, type OwnDialogProps } from './own-dialog';
import { SameAsField } from './same-as-field';
import { useOwnForm } from './use-own-form';
import { ValueList } from './value-list';

/** A command that the show adds to a device. */
export function CommandDialog(props: OwnDialogProps<OwnCommand>) {
  const { document, additions, role, id, initial, onSave, onClose } = props;
  const put = useCallback((own: OwnCommand) => putCommand(document, additions, id, own), [document, additions, id]);
  const { own, set, wrong, others, isSubmitting, onSubmit } = useOwnForm(initial, put, onSave);
  const known = own.values.map(({ name }) => name);
  const readings = { ...document.readings, ...additions?.readings };
  const { message } = own;
  const typed = 'payload' in message ? message.payload : message.as === 'osc' ? message.args : message.value;
  const place = 'path' in message ? message.path : 'topic' in message ? message.topic : '';
  const unknown = message.as === 'hex' ? [] : unknownHoles(typed + place, known);
  const stops = Object.entries({ ...document.commands, ...additions?.commands }).filter(([name]) => name !== id);
  return (
    <OwnDialog
      what="command"
      isNew={id === undefined}
      name={own.title}
      wrongName={wrong.title}
      problems={others}
      isSubmitting={isSubmitting}
      onName={(title) => set({ title })}
      onSubmit={onSubmit}
      onClose={onClose}
    >
      <MessageFields
        document={document}
        message={message}
        known={known}
        wrong={wrong}
        onChange={(next) => set({ message: next })}
      />
      {unknown.length > 0 && (
        <p className="text-[14px]">
          There is no value called {unknown.map((name) => `“${name}”`).join(', ')}. The text is sent with its braces.
        </p>
      )}
      {wrong.payload && ['text', 'hex'].includes(message.as) && (
        <p className="text-[14px] font-semibold" role="alert">
          {wrong.payload}
        </p>
      )}
      <h3>Values</h3>
      <ValueList
        values={own.values}
        onOff={usualOnOff(document)}
        readings={readings}
        onChange={(values) => set({ values, confirm: confirmAfter(own.confirm, own.values, values) })}
      />
      <h3>When the control is pressed</h3>
      <ConfirmFields
        document={document}
        readings={readings}
        values={own.values}
        confirm={own.confirm}
        onChange={(confirm) => set({ confirm })}
      />
      <div className="grid grid-cols-[repeat(auto-fit,minmax(180px,1fr))] items-end gap-2.5">
        <Select
          label="Stopped by"
          value={own.stop?.command ?? ''}
          options={[
            { value: '', title: 'nothing: it acts once' },
            ...stops.map(([value, { title }]) => ({ value, title })),
          ]}
          onChoose={(command) =>
            set({ stop: command === '' ? undefined : { command, longestMs: own.stop?.longestMs ?? 30_000 } })
          }
        />
        {own.stop && (
          <NumberField
            label="Stop automatically after"
            unit="ms"
            min={50}
            max={600_000}
            value={own.stop.longestMs}
            onCommit={(longestMs) => own.stop && set({ stop: { ...own.stop, longestMs } })}
          />
        )}
      </div>
      <SameAsField
        role={role}
        kind="commands"
        name={own.sameAs?.name}
        wrong={wrong.sameAs}
        params={Object.fromEntries(own.values.map((each) => [each.name, each]))}
        onChoose={(name) => set({ sameAs: name === undefined ? undefined : { role, name } })}
      />
      <Checkbox label="Confirm before sending" checked={own.risky} onChange={(risky) => set({ risky })} />
      {canSendAgain(document) && (
        <Checkbox
          label="Send again if there is no answer (safe to send twice)"
          checked={own.again}
          onChange={(again) => set({ again })}
        />
      )}
    </OwnDialog>
  );
}
