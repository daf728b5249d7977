'use client';

import { Ellipsis, X } from 'lucide-react';
import { useState } from 'react';
import type { WatchProblem } from '../../core/check';
import { msOfFrame, nearestFrame, rateOf, rateOfShow } from '../../core/macro';
import { shownCondition } from '../../core/page';
import { plainButton, type DeskView, type WatchData, type WatchRecord } from '../../core/show';
import { copyWatchEdit, removeWatchEdit } from '../../core/watch';
import { useDesk } from '../desk';
import { ConditionFields } from '../editor';
import { useRigFacts } from '../fields';
import { Button, Checkbox, Confirm, Fold, Menu, NoteField, NumberField, Switch, TextField } from '../kit';
import { OutsidePart } from '../outside';
import { newId } from '../parts';
import { ThenFields } from './then-fields';
import { useWatchStates } from './use-watch-states';
import { useWatchVerbs } from './use-watch-verbs';
import { TrialPart } from './trial-part';
import { WatchRemark } from './watch-marks';
import { WhenFields } from './when-fields';

interface Props {
  readonly show: DeskView;
  readonly watch: WatchRecord;
  readonly problems: readonly WatchProblem[];
  readonly onOpen: (id: string | undefined) => void;
}

/** One watch: whether it is on, what it waits for, what it does, and how often it may. */
export function WatchDetails({ show, watch, problems, onOpen }: Props) {
  const desk = useDesk();
  const verbs = useWatchVerbs();
  const now = useWatchStates()(watch.data.number);
  const [isRemoving, setRemoving] = useState(false);
  const { data } = watch;
  const rate = rateOf(rateOfShow(show.records));
  const change = (what: string, to: Partial<WatchData>) => verbs.change(watch, what, { ...data, ...to });
  const isOn = now.state !== undefined && now.state !== 'off';
  const said = (of: WatchProblem['of']) =>
    problems
      .filter((problem) => problem.of === of)
      .map(({ message }) => (
        <p key={message} className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
          {message}
        </p>
      ));
  return (
    <article
      className="flex h-full min-h-0 flex-col gap-2.5 overflow-y-auto px-4 pt-3 pb-20 [&>*]:shrink-0"
      aria-labelledby={`${watch.id}-name`}
    >
      <header className="grid gap-2 pb-3">
        <div className="flex items-center gap-2">
          <h2 id={`${watch.id}-name`} className="min-w-0 truncate text-[17px] font-semibold">
            <span className="font-mono text-[0.9em] font-normal text-ink-soft">{data.number}</span> {data.name}
          </h2>
          <span className="ml-auto flex shrink-0">
            <Menu
              acts={[
                {
                  title: 'Duplicate',
                  run: () => void desk.edit(copyWatchEdit(show.records, watch, newId)),
                },
                { title: 'Remove watch …', run: () => setRemoving(true) },
              ]}
            >
              <Button kind="ghost" aria-label={`More for ${data.name}`}>
                <Ellipsis aria-hidden className="size-4" />
              </Button>
            </Menu>
            <Button kind="ghost" aria-label="Close details" onClick={() => onOpen(undefined)}>
              <X aria-hidden className="size-4" />
            </Button>
          </span>
        </div>
        <div className="flex flex-wrap items-center gap-3">
          <Switch
            label={isOn ? 'Switched on' : 'Switched off'}
            checked={isOn}
            onChange={(to) => verbs.switch(watch, to)}
          />
          <Button title="Does what it does now, whatever it waits for" onClick={() => verbs.fire(watch)}>
            Fire now
          </Button>
          {(now.state === 'spent' || now.state === 'stopped') && (
            <Button onClick={() => verbs.switch(watch, true)}>Let it fire again</Button>
          )}
          <WatchRemark state={now.state} />
        </div>
        <p className="text-[14px] text-ink-soft">
          {now.last === ''
            ? 'Not fired since the program started.'
            : `Fired ${now.count === 1 ? 'once' : `${now.count} times`}, last ${now.last}.`}
          {now.next !== '' && ` Next ${now.next}.`}
        </p>
        {now.why !== '' && <p className="text-[14px]">{now.why}</p>}
        {said('loop')}
      </header>
      <Fold name="When">
        <WhenFields show={show} when={data.when} onWhen={(when) => change('When', { when })} />
        {said('when')}
        <Unless data={data} onUnless={(unless) => verbs.change(watch, 'Exception', withUnless(data, unless))} />
        {said('unless')}
      </Fold>
      <Fold name="Then">
        <ThenFields show={show} data={data} onData={(what, to) => verbs.change(watch, what, to)} />
        {said('then')}
      </Fold>
      <Fold name="How often">
        <div className="grid grid-cols-2 items-start gap-3">
          {data.when.is !== 'key' && (
            <>
              <NumberField
                label="Delay"
                unit="ms"
                min={0}
                max={3_600_000}
                value={data.delayMs}
                onCommit={(delayMs) => change('Delay', { delayMs: Math.round(delayMs) })}
              />
              <NumberField
                label="The same delay in frames"
                unit="frames"
                min={0}
                max={nearestFrame(3_600_000, rate)}
                value={nearestFrame(data.delayMs, rate)}
                onCommit={(frames) => change('Delay', { delayMs: Math.round(msOfFrame(Math.round(frames), rate)) })}
              />
            </>
          )}
          <NumberField
            label="Quiet time"
            help="The watch does not fire again during this time."
            unit="ms"
            min={0}
            max={86_400_000}
            value={data.quietMs}
            onCommit={(quietMs) => change('Quiet time', { quietMs: Math.round(quietMs) })}
          />
          <NumberField
            label="At most, a minute"
            min={1}
            max={600}
            value={data.mostPerMinute}
            onCommit={(most) => change('Limit', { mostPerMinute: Math.round(most) })}
          />
        </div>
        <Checkbox
          label="Fire once, until it is switched on again"
          checked={data.once === true}
          onChange={(on) => {
            const { once: _, ...rest } = data;
            verbs.change(watch, 'Firing once', on ? { ...rest, once: true } : rest);
          }}
        />
        <Checkbox
          label="Only while the show is in service"
          checked={data.inService === true}
          onChange={(on) => {
            const { inService: _, ...rest } = data;
            verbs.change(watch, 'Service setting', on ? { ...rest, inService: true } : rest);
          }}
        />
      </Fold>
      <TrialPart key={data.when.is} show={show} watch={watch} />
      <OutsidePart records={show.records} of={watch} />
      <Fold name="Name and note">
        <TextField
          label="Name"
          value={data.name}
          maxLength={60}
          onCommit={(name) => name.trim() !== '' && change('Name', { name: name.trim() })}
        />
        <NoteField value={data.note} onCommit={(note) => change('Note', { note })} />
      </Fold>
      <Confirm
        title={`Remove watch ${data.name}?`}
        act="Remove watch"
        open={isRemoving}
        onOpenChange={setRemoving}
        onAct={() => {
          onOpen(undefined);
          void desk.edit(removeWatchEdit(watch));
        }}
      >
        Controls and macros that switch number {data.number} will say that it is missing.
      </Confirm>
    </article>
  );
}

function withUnless(data: WatchData, unless: WatchData['unless']): WatchData {
  const { unless: _, ...rest } = data;
  return unless ? { ...rest, unless } : rest;
}

interface UnlessProps {
  readonly data: WatchData;
  readonly onUnless: (to: WatchData['unless']) => void;
}

/** The exception: while it holds the watch does not fire. */
function Unless({ data: { unless }, onUnless }: UnlessProps) {
  const { devices } = useRigFacts();
  const start = {
    op: 'above',
    reading: { device: 'own', key: 'devicesDown' },
    to: 0,
  } as const;
  return (
    <>
      <Checkbox
        label="Unless another condition is true"
        checked={unless !== undefined}
        disabled={devices.length === 0}
        onChange={(on) => onUnless(on ? start : undefined)}
      />
      {unless && (
        <ConditionFields
          condition={shownCondition(unless, plainButton)}
          data={plainButton}
          word="unless"
          onChange={onUnless}
        />
      )}
    </>
  );
}
