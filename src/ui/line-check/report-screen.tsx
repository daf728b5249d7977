'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import Link from 'next/link';
import { useState } from 'react';
import { figuresOf, figuresText, groupsOf, tellingOf, type CheckReport } from '../../core/line-check';
import type { SignedReport } from '../../core/live';
import { ownDevice, ownId } from '../../core/show';
import { Button, buttonClass, Segmented, Select } from '../kit';
import { clockText, VeiledText } from '../parts';
import { kindWords, standingText } from '../proofs';
import { ReportChanges } from './report-changes';
import { ReportDrills } from './report-drills';
import { SignDialog } from './sign-dialog';

type Item = CheckReport['items'][number];

async function fetched<T>(path: string): Promise<T> {
  const answer = await fetch(path);
  if (!answer.ok) throw new Error('The report could not be fetched.');
  return (await answer.json()) as T;
}

const whenText = (at: number): string => `${new Date(at).toLocaleDateString()}, ${clockText(at, false)}`;
const ownTag = ownDevice.data.tag;
const presently = 'now';
const nothing = 'nothing';
const pathOf = (name: string): string => (name === presently ? '/api/line-check' : `/api/line-check/reports/${name}`);

/** The line check on paper: as it is now, or as somebody has signed it; in full, or what is open only. */
export function ReportScreen() {
  const [chosen, setChosen] = useState(presently);
  const [length, setLength] = useState<'short' | 'whole'>('short');
  const [compared, setCompared] = useState(nothing);
  const client = useQueryClient();
  const { data: list } = useQuery({
    queryKey: ['line-check-reports'],
    queryFn: () => fetched<{ reports: readonly SignedReport[] }>('/api/line-check/reports'),
  });
  const { data: report, error } = useQuery({
    queryKey: ['line-check-report', chosen],
    queryFn: () => fetched<CheckReport>(pathOf(chosen)),
  });
  const { data: other } = useQuery({
    queryKey: ['line-check-report', compared],
    enabled: compared !== nothing && compared !== chosen,
    queryFn: () => fetched<CheckReport>(pathOf(compared)),
  });
  const signed = list?.reports ?? [];
  const onSigned = async () => {
    await client.invalidateQueries({ queryKey: ['line-check-reports'] });
    const { reports } = await fetched<{ reports: readonly SignedReport[] }>('/api/line-check/reports');
    setChosen(reports[0]?.name ?? presently);
  };
  return (
    <section className="sheet flex min-h-full flex-col gap-3 px-4 pt-3.5 pb-3" aria-labelledby="report-title">
      <div className="sheet-tools flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
        <Button kind="strong" onClick={() => window.print()}>
          Print
        </Button>
        <Segmented
          label="How much"
          value={length}
          options={[
            { value: 'short', title: 'Short' },
            { value: 'whole', title: 'Whole' },
          ]}
          onChoose={setLength}
        />
        <Select
          label="Report"
          labelAt="before"
          value={chosen}
          options={[
            { value: presently, title: 'as it is now' },
            ...signed.map(({ name, who, at }) => ({ value: name, title: `${whenText(at)}, ${who}` })),
          ]}
          onChoose={setChosen}
        />
        {signed.length > 0 && (
          <Select
            label="Compare with"
            labelAt="before"
            value={compared}
            options={[
              { value: nothing, title: 'nothing' },
              ...(chosen === presently ? [] : [{ value: presently, title: 'as it is now' }]),
              ...signed
                .filter(({ name }) => name !== chosen)
                .map(({ name, who, at }) => ({ value: name, title: `${whenText(at)}, ${who}` })),
            ]}
            onChoose={setCompared}
          />
        )}
        {chosen === presently && <SignDialog onSigned={() => void onSigned()} />}
        <a className={buttonClass()} href="/api/line-check?format=csv" download>
          Save as CSV
        </a>
        <a className={buttonClass()} href="/api/line-check" download>
          Save as JSON
        </a>
        <Link className={buttonClass({ className: 'ml-auto' })} href="/line-check">
          Back to the line check
        </Link>
      </div>
      {error && <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">{error.message}</p>}
      {report ? (
        <Report
          report={report}
          other={compared === nothing || compared === chosen ? undefined : other}
          isWhole={length === 'whole'}
        />
      ) : (
        !error && <p>Fetching the report …</p>
      )}
    </section>
  );
}

interface ReportProps {
  readonly report: CheckReport;
  /** What it is compared with. */
  readonly other: CheckReport | undefined;
  readonly isWhole: boolean;
}

function Report({ report, other, isWhole }: ReportProps) {
  const { show, revision, at, signed, items } = report;
  const groups = groupsOf(
    // A report has tags where the plan has ids.
    items.map((item) => ({ ...item, devices: item.devices.map((tag) => (tag === ownTag ? ownId : tag)) })),
    { by: 'device', isToDo: false, search: '', titleOf: (id) => (id === ownId ? ownTag : id) },
  );
  const open = items.filter(({ standing }) => standing !== 'passed');
  return (
    <>
      <h1 id="report-title">Line check of {show}</h1>
      <p>
        {whenText(at)}. {revision === null ? 'Not in service yet.' : `Revision ${revision} in service.`}{' '}
        {figuresText(figuresOf(items.map(({ standing }) => standing)))}.
      </p>
      {signed && (
        <p className="border-l-3 border-rule-strong pl-2.5">
          <b>Signed by {signed.who}</b>, {whenText(signed.at)}
          {signed.note && <span className="block">{signed.note}</span>}
        </p>
      )}
      {items.length === 0 && <p>There is no plan yet. Open the line check once.</p>}
      <table aria-label="Devices">
        <thead>
          <tr>
            <th scope="col">Device</th>
            <th scope="col">Figures</th>
          </tr>
        </thead>
        <tbody>
          {groups.map(({ id, title, figures }) => (
            <tr key={id}>
              <th scope="row">{title}</th>
              <td>{figuresText(figures)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {other && <ReportChanges earlier={other} later={report} />}
      {report.drills && <ReportDrills drills={report.drills} />}
      <h2>{isWhole ? 'All points' : 'Open points'}</h2>
      <Items items={isWhole ? items : open} label={isWhole ? 'All points' : 'Open points'} />
    </>
  );
}

function Items({ items, label }: { readonly items: readonly Item[]; readonly label: string }) {
  if (items.length === 0) return <p>None.</p>;
  return (
    <table aria-label={label}>
      <thead>
        <tr>
          <th scope="col">Device</th>
          <th scope="col">Item</th>
          <th scope="col">Result</th>
          <th scope="col">What was seen</th>
          <th scope="col">By</th>
        </tr>
      </thead>
      <tbody>
        {items.map((item) => {
          // A report has no ways of proof, only what came of them.
          const result = tellingOf({ proofs: item.results }, item.results, () => true);
          return (
            <tr key={item.id}>
              <td>{item.devices[0] ?? ''}</td>
              <th scope="row">
                {item.title} <span className="font-normal text-ink-soft">{kindWords[item.kind]}</span>
              </th>
              <td className="whitespace-nowrap">{standingText(item.standing)}</td>
              <td>
                <VeiledText text={item.fault ?? result?.text ?? item.why ?? ''} />
              </td>
              <td>{result ? `${result.who}, ${whenText(result.at)}` : ''}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
