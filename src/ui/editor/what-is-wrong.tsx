'use client';

import type { ControlProblem } from '../../core/check';
import { splitKey } from '../../core/driver';
import { changePageEdit, placeFor, removeSend, replaceSend, sendsOf } from '../../core/page';
import {
  controlsOf,
  mapConditionReadings,
  readingsOfCondition,
  sendsOfControl,
  withDevices,
  type ControlRecord,
  type LampRule,
} from '../../core/show';

import { useFacts } from './facts';
import { Retarget } from './retarget';
import { Button } from '../kit';
import { useVerbs } from './verbs';

/** What of a control will not work, why, and the repair; and what would work, but show nothing now. */
export function WhatIsWrong({ control }: { readonly control: ControlRecord }) {
  const { problemsOf, warningsOf } = useFacts();
  return (
    <>
      {problemsOf(control).map((problem) => (
        <div key={problem.message} className="wrong">
          <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">{problem.message}</p>
          <Repair control={control} problem={problem} />
        </div>
      ))}
      {warningsOf(control).map((warning) => (
        <p
          key={warning}
          className="shows-nothing remark my-2 border-l-6 border-warning pl-2.5 before:font-bold before:content-['!_']"
        >
          {warning}
        </p>
      ))}
    </>
  );
}

/** What of the page itself will not work, and the repair. */
export function WhatIsWrongOfPage() {
  const verbs = useVerbs();
  const { page, pageProblems } = useFacts();
  return pageProblems.map(({ message, act, to }) => (
    <div key={message} className="wrong">
      <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">{message}</p>
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button onClick={() => void verbs.edit(changePageEdit(page, { calledBy: to.calledBy, zones: to.zones }, act))}>
          {act}
        </Button>
      </div>
    </div>
  ));
}

function Repair({ control, problem }: { readonly control: ControlRecord; readonly problem: ControlProblem }) {
  const verbs = useVerbs();
  const { show, page, documentOf } = useFacts();
  const change = (to: (data: ControlRecord['data']) => ControlRecord['data']) => verbs.change(control, to, 'Repair');
  switch (problem.what) {
    case 'device-gone':
      return (
        <Retarget
          from={[problem.device]}
          act="Repair"
          fits={({ id }) =>
            sendsOfControl(control.data).every(
              ({ device, command }) => device !== problem.device || command in (documentOf(id)?.commands ?? {}),
            )
          }
          onRetarget={(from, to) => change((data) => withDevices(data, (each) => (each === from ? to.id : each)))}
        />
      );
    case 'command-gone': {
      const { gesture, index, near } = problem;
      if (gesture === 'range') return null;
      const send = sendsOf(control.data, gesture)[index];
      const document = send && documentOf(send.device);
      const title = near && document?.commands[near]?.title;
      return (
        <div className="col-span-full flex flex-wrap gap-2.5">
          {send && document && near && (
            <Button onClick={() => change((data) => replaceSend(data, gesture, index, document, send.device, near))}>
              Send “{title}” instead
            </Button>
          )}
          <Button onClick={() => change((data) => removeSend(data, gesture, index))}>Remove the command</Button>
        </div>
      );
    }
    case 'reading-gone': {
      const { device, key, near } = problem;
      const isGone = (ref: { readonly device: string; readonly key: string }) =>
        ref.device === device && splitKey(ref.key).family === splitKey(key).family;
      return (
        <div className="col-span-full flex flex-wrap gap-2.5">
          {near && !near.includes('[]') && (
            <Button onClick={() => change((data) => withReading(data, isGone, near))}>Take “{near}”</Button>
          )}
          <Button onClick={() => change((data) => withReading(data, isGone, undefined))}>Take it out</Button>
        </div>
      );
    }
    case 'outside': {
      const { cols, rows } = control.data;
      const others = controlsOf(show.records, page.id).filter(({ id }) => id !== control.id);
      const block = [{ col: 0, row: 0, cols, rows }];
      const place = placeFor(
        page.data,
        others.map(({ data }) => data),
        block,
        { col: 0, row: 0 },
      );
      return (
        place.ok && (
          <div className="col-span-full flex flex-wrap gap-2.5">
            <Button onClick={() => change((data) => ({ ...data, ...place.value }))}>
              Move to column {place.value.col + 1}, row {place.value.row + 1}
            </Button>
          </div>
        )
      );
    }
    case 'macro-gone':
      return (
        <Button
          onClick={() => change(({ responses: { runs: _, ...others }, ...data }) => ({ ...data, responses: others }))}
        >
          Begin no macro
        </Button>
      );
    case 'choice-gone':
      return (
        <div className="col-span-full flex flex-wrap gap-2.5">
          <Button onClick={() => change(({ sets: _, ...data }) => data)}>Choose nothing</Button>
        </div>
      );
    // The rule says it itself, where it can be put right.
    case 'rule':
    case 'parameter':
    case 'picked':
    case 'empty':
    case 'page-gone':
      return null;
  }
}

/** Readings that are gone replaced by another of the device, or taken out of label and lamps. */
function withReading(
  data: ControlRecord['data'],
  isGone: (ref: { readonly device: string; readonly key: string }) => boolean,
  key: string | undefined,
): ControlRecord['data'] {
  const label = data.label.flatMap((segment) => {
    if (!('reading' in segment) || !isGone(segment.reading)) return [segment];
    return key === undefined ? [] : [{ reading: { ...segment.reading, key } }];
  });
  const lamps = data.lamps.flatMap((rule): LampRule[] => {
    if (!readingsOfCondition(rule.when).some(isGone)) return [rule];
    const when = mapConditionReadings(rule.when, (ref) => (isGone(ref) && key !== undefined ? { ...ref, key } : ref));
    return key === undefined ? [] : [{ ...rule, when }];
  });
  return { ...data, label, lamps };
}
