'use client';

import Link from 'next/link';
import {
  dealOnEdit,
  firstSend,
  goneMembers,
  listedValues,
  membersOf,
  missingValues,
  removeControlsEdit,
} from '../../core/page';
import { devicesOf, valueNameOf, type ControlRecord } from '../../core/show';
import { textOf } from '../page';
import { OutsidePart } from '../outside';
import { newId } from '../parts';
import { ControlProofs } from '../proofs';
import { FaceFields } from './face-fields';
import { useFacts } from './facts';
import { LabelField } from './label-field';
import { LampFields } from './lamp-fields';
import { CopyOnly, PastePart } from './part-clip';
import { PlaceFields } from './place-fields';
import { KindFields, kindWords } from './kind-fields';
import { TryControl } from './try-control';
import { ShownFields } from './shown-fields';
import { SetsField } from './sets-field';
import { useFaceOf } from './use-face-of';
import { useVerbs } from './verbs';
import { WhatIsWrong } from './what-is-wrong';
import { Button, Fold } from '../kit';

/** One control: what it shows, what it does, when it lights. Each change is an edit of its own. */
export function ControlPane({ control }: { readonly control: ControlRecord }) {
  const verbs = useVerbs();
  const { show } = useFacts();
  const face = useFaceOf(control.data);
  const name = textOf(face) || kindWords[control.data.type];
  return (
    <div className="form">
      <h2>{name}</h2>
      <WhatIsWrong control={control} />
      <LabelField control={control} name={name} />
      <KindFields control={control} name={name} />
      {(control.data.type === 'button' || control.data.type === 'readout') && (
        <ShownFields control={control} name={name} />
      )}
      <LampFields control={control} name={name} />
      <FaceFields controls={[control]} />
      <SetsField control={control} name={name} />
      <TryControl control={control} />
      <ControlProofs key={control.id} control={control.id} />
      <PlaceFields control={control} />
      <SeriesOf control={control} />
      <UsesOf control={control} />
      <OutsidePart records={show.records} of={control} />
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button onClick={verbs.duplicate}>Duplicate</Button>
        <Button onClick={verbs.clear}>Clear</Button>
        <CopyOnly control={control} name={name} />
        <PastePart controls={[control]} />
      </div>
    </div>
  );
}

/** The series that a control belongs to, and what the device lists that it does not have yet. */
function SeriesOf({ control }: { readonly control: ControlRecord }) {
  const verbs = useVerbs();
  const { page, controls, documentOf, readings } = useFacts();
  const members = membersOf(control, controls);
  const name = control.data.series?.value;
  const send = firstSend(control.data);
  if (members.length < 2 || name === undefined || !send) return null;
  const param = Object.entries(send.params).find(([, argument]) => valueNameOf(argument) === name)?.[0];
  const definition = param === undefined ? undefined : documentOf(send.device)?.commands[send.command]?.params[param];
  const listed = definition?.listFrom
    ? listedValues(definition, readings.get(send.device) ?? {}, control.data.series?.among)
    : [];
  const missing = missingValues(members, listed);
  const gone = goneMembers(members, listed);
  const dealOn = () => {
    const made = dealOnEdit(page, controls, members, missing, newId);
    if (made.ok) void verbs.edit(made.value.edit);
    else verbs.say(made.error, true);
  };
  return (
    <Fold name="Series">
      <p className="text-ink-soft">
        One of {members.length} that differ in {definition?.title.toLowerCase() ?? name}
        {control.data.series?.among && `, of ${String(control.data.series.among.is)}`}.
      </p>
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button onClick={() => verbs.choose(members.map(({ id }) => id))}>Choose all {members.length}</Button>
        {missing.length > 0 && (
          <Button kind="strong" onClick={dealOn}>
            Deal {missing.length} more
          </Button>
        )}
        {gone.length > 0 && (
          <Button onClick={() => void verbs.edit(removeControlsEdit(gone, `Clear ${gone.length} of a series`))}>
            Clear {gone.length} of the series
          </Button>
        )}
      </div>
      {missing.length > 0 && (
        <p className="col-span-full text-[13px] text-ink-soft">
          The device lists {missing.length} that the series does not have yet.
        </p>
      )}
      {gone.length > 0 && (
        <p className="col-span-full text-[13px] text-ink-soft">
          The device does not list {gone.length === 1 ? 'one' : gone.length} of them any more.
        </p>
      )}
    </Fold>
  );
}

/** The devices that a control is about, each with the way to it. */
function UsesOf({ control }: { readonly control: ControlRecord }) {
  const { devices } = useFacts();
  const ids = devicesOf(control.data);
  const used = devices.filter(({ id }) => ids.includes(id));
  if (used.length === 0) return null;
  return (
    <p className="uses text-ink-soft">
      Uses{' '}
      {used.map(({ id, data }) => (
        <Link key={id} href={`/rig?device=${id}`} className="ml-2 font-mono text-[0.93em] font-semibold underline">
          {data.tag}
        </Link>
      ))}
    </p>
  );
}
