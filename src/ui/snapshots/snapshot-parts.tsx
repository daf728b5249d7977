'use client';

import { X } from 'lucide-react';
import { useMemo, useState } from 'react';
import { paramText, readingTitle, type DriverDocument } from '../../core/driver';
import type { Scalar } from '../../core/result';
import type { DeskView, SnapshotPart, SnapshotRecord } from '../../core/show';
import {
  boxesOf,
  changeSnapshotEdit,
  differencesBetween,
  differencesNow,
  snapshotsOf,
  tracksOf,
  withPartOf,
  withValue,
} from '../../core/snapshot';
import { useDesk } from '../desk';
import { ParamField } from '../fields';
import { Button, IconButton, Select } from '../kit';
import { LayoutEditor } from './layout-editor';
import type { SnapshotFacts } from './use-snapshot-facts';

interface Props {
  readonly show: DeskView;
  readonly facts: SnapshotFacts;
  readonly snapshot: SnapshotRecord;
}

const now = 'now';

/** What a snapshot keeps, beside what is set now or what another one keeps; each value can be changed here. */
export function SnapshotParts({ show, facts, snapshot }: Props) {
  const desk = useDesk();
  const { data } = snapshot;
  const [against, setAgainst] = useState<string>(now);
  const others = useMemo(() => snapshotsOf(show.records).filter(({ id }) => id !== snapshot.id), [show, snapshot.id]);
  const other = others.find(({ id }) => id === against);
  const differ = other ? differencesBetween(data.parts, other.data.parts) : differencesNow(data.parts, facts);
  const isDifferent = (device: string, key: string) =>
    differ.some((each) => each.device === device && each.key === key);
  const save = (parts: readonly SnapshotPart[], what: string) =>
    void desk.edit(changeSnapshotEdit(snapshot, { ...data, parts: [...parts] }, what));
  const otherValue = (device: string, key: string) =>
    other
      ? other.data.parts.find((part) => part.device === device && key in part.values)?.values[key]
      : facts.fresh(device, key);
  return (
    <section aria-label="What it keeps" className="grid gap-3 pb-3">
      <div className="flex flex-wrap items-end gap-3">
        <Select
          label="Compare with"
          value={against}
          options={[
            { value: now, title: 'What is set now' },
            ...others.map(({ id, data: each }) => ({ value: id, title: `${each.number} ${each.name}` })),
          ]}
          onChoose={setAgainst}
        />
        <span className="pb-2 text-[14px] text-ink-soft">
          {differ.length === 0
            ? 'No difference'
            : differ.length === 1
              ? '1 value differs'
              : `${differ.length} values differ`}
        </span>
      </div>
      {data.parts.map((part, n) => {
        const document = facts.documentOf(part.device);
        const keep = document?.keeps[part.keep];
        const tag = facts.tagOf(part.device);
        if (!document || !keep)
          return (
            <p key={`${part.device} ${part.keep}`} className="border-l-4 border-warning pl-2 text-[14px]">
              {tag === undefined
                ? 'A device of this snapshot is not in the rig any more. Its values are left out when it is called up.'
                : `The driver of ${tag} does not keep “${part.keep}”. Its values are left out when it is called up.`}{' '}
              <Button onClick={() => save(data.parts.toSpliced(n, 1), 'Values')}>Remove these values</Button>
            </p>
          );
        const twin = other?.data.parts.find((each) => each.device === part.device && each.keep === part.keep);
        return (
          <section key={`${part.device} ${part.keep}`} className="grid gap-2 border-t border-rule pt-2.5">
            <div className="flex items-center gap-2">
              <h3 className="font-semibold">
                <span className="font-mono text-[0.93em]">{tag}</span> {keep.title}
              </h3>
              <span className="ml-auto flex items-center gap-1">
                {twin && (
                  <Button onClick={() => save(withPartOf(data.parts, twin), 'Values')}>
                    Copy these from {other?.data.name}
                  </Button>
                )}
                {data.parts.length > 1 && (
                  <IconButton
                    label={`Leave ${keep.title} of ${tag ?? 'the device'} out`}
                    onClick={() => save(data.parts.toSpliced(n, 1), 'Values')}
                  >
                    <X aria-hidden className="size-4" />
                  </IconButton>
                )}
              </span>
            </div>
            {boxesOf(part, document).length > 0 && (
              <LayoutEditor
                part={part}
                document={document}
                readings={facts.readings.get(part.device)}
                onChange={(to) => save(data.parts.with(n, to), 'Layout')}
              />
            )}
            <Values
              part={part}
              document={document}
              facts={facts}
              isDifferent={(key) => isDifferent(part.device, key)}
              otherName={other ? other.data.name : 'Now'}
              otherValue={(key) => otherValue(part.device, key)}
              onChange={(key, value) => save(withValue(data.parts, part.device, key, value), 'Value')}
            />
          </section>
        );
      })}
    </section>
  );
}

interface ValuesProps {
  readonly part: SnapshotPart;
  readonly document: DriverDocument;
  readonly facts: SnapshotFacts;
  readonly isDifferent: (key: string) => boolean;
  /** The heading of what it is compared with. */
  readonly otherName: string;
  readonly otherValue: (key: string) => Scalar | undefined;
  readonly onChange: (key: string, value: Scalar) => void;
}

/** Every value by itself, typed or picked as its command takes it; a family is one table. */
function Values({ part, document, facts, isDifferent, otherName, otherValue, onChange }: ValuesProps) {
  const keep = document.keeps[part.keep];
  const kept = (keep ? tracksOf(document, keep) : [])
    .flatMap((track) => track.values.map((value) => ({ ...value, command: track.command })))
    .filter(({ key }) => key in part.values);
  const differing = kept.filter(({ key }) => isDifferent(key));
  const [isAll, setAll] = useState(false);
  const shown = isAll ? kept : differing;
  const readings = facts.readings.get(part.device);
  return (
    <div className="grid gap-1">
      {shown.length > 0 && (
        <table className="w-full text-[14px] [&_td]:border-b [&_td]:border-rule [&_td]:py-0.5 [&_td]:pr-2 [&_th]:text-left [&_th]:font-normal [&_th]:text-ink-soft">
          <thead>
            <tr>
              <th scope="col">Value</th>
              <th scope="col" className="w-44 max-[600px]:w-28">
                Kept
              </th>
              <th scope="col" className="w-28 max-[600px]:w-20">
                {otherName}
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.map(({ key, param, command }) => {
              const parameter = document.commands[command]?.params[param];
              const title = readingTitle(document, key) ?? key;
              const other = otherValue(key);
              return (
                <tr key={key} data-differs={isDifferent(key) || undefined}>
                  <td className={isDifferent(key) ? 'border-l-4 border-l-warning pl-2' : 'pl-3'}>{title}</td>
                  <td className="[&_input]:w-full">
                    {parameter && (
                      <ParamField
                        param={{ ...parameter, title }}
                        value={part.values[key]}
                        commits
                        isBare
                        {...(readings ? { readings } : {})}
                        {...(parameter.listFrom && document.readings[parameter.listFrom]
                          ? { family: document.readings[parameter.listFrom] }
                          : {})}
                        onChange={(value) => value !== undefined && onChange(key, value)}
                      />
                    )}
                  </td>
                  <td className="max-w-28 truncate">
                    {other === undefined || !parameter ? 'not known' : paramText(parameter, other, readings)}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {kept.length > differing.length && (
        <span>
          <Button kind="ghost" onClick={() => setAll(!isAll)}>
            {isAll ? 'Show only what differs' : `Show all ${kept.length} values`}
          </Button>
        </span>
      )}
    </div>
  );
}
