'use client';

import { useState } from 'react';
import type { HealthView } from '../../core/live';
import { EmptyState, Segmented, SplitPanes, useNarrow } from '../kit';
import { useHealth, useNow, useStatus } from '../live';
import { durationText } from '../parts';
import { DeviceDetail } from './device-detail';
import { DeviceTable } from './device-table';
import { IncidentDetail } from './incident-detail';
import { IncidentTable } from './incident-table';
import { LimitsDialog } from './limits-dialog';
import { OpenIncidents } from './open-incidents';
import { ScreenTable } from './screen-table';

type Part = 'devices' | 'screens' | 'incidents';
type Chosen = { readonly kind: 'device' | 'incident'; readonly id: string };

/** How devices, screens and this computer fare during the show, against the line check, and what went beyond its limits. */
export function HealthScreen() {
  const view = useHealth();
  const status = useStatus();
  const now = useNow();
  const isNarrow = useNarrow();
  const [part, setPart] = useState<Part>('devices');
  const [chosen, setChosen] = useState<Chosen>();
  const devices = status?.devices ?? {};
  const incident = chosen?.kind === 'incident' ? view?.incidents.find(({ id }) => id === chosen.id) : undefined;
  const close = () => setChosen(undefined);
  const open = (id: string) => setChosen({ kind: 'incident', id });
  return (
    <section className="flex h-full min-h-full flex-col px-4 pt-3.5 pb-3" aria-labelledby="health-title">
      <div className="mb-2 flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
        <h1 id="health-title">Health</h1>
        <span role="status" className="text-ink-soft">
          {view ? summaryOf(view) : '…'}
        </span>
        <span className="ml-auto">
          <LimitsDialog />
        </span>
      </div>
      {view && <OpenIncidents incidents={view.incidents} now={now} onOpen={open} />}
      <div className="mb-2 flex flex-wrap items-center gap-x-3.5 gap-y-2">
        <Segmented
          label="What to show"
          value={part}
          options={[
            { value: 'devices', title: 'Devices' },
            { value: 'screens', title: 'Screens' },
            { value: 'incidents', title: 'Incidents' },
          ]}
          onChoose={setPart}
        />
        {view?.computer && <ComputerLine computer={view.computer} />}
      </div>
      <SplitPanes
        name="health"
        main={
          part === 'incidents' ? (
            <IncidentTable incidents={view?.incidents ?? []} open={incident?.id} now={now} onOpen={open} />
          ) : part === 'screens' ? (
            <ScreenTable screens={view?.screens ?? {}} />
          ) : Object.keys(devices).length === 0 ? (
            <EmptyState title="No devices in the rig yet.">
              Their answers and reports are watched once they are there.
            </EmptyState>
          ) : (
            <DeviceTable
              devices={devices}
              view={view}
              open={chosen?.kind === 'device' ? chosen.id : undefined}
              isNarrow={isNarrow || chosen !== undefined}
              now={now}
              onOpen={(id) => setChosen({ kind: 'device', id })}
            />
          )
        }
        side={
          incident ? (
            <IncidentDetail key={incident.id} incident={incident} onClose={close} />
          ) : (
            chosen?.kind === 'device' && (
              <DeviceDetail
                key={chosen.id}
                id={chosen.id}
                device={devices[chosen.id]}
                health={view?.devices[chosen.id]}
                incidents={view?.incidents ?? []}
                onIncident={open}
                onClose={close}
              />
            )
          )
        }
      />
    </section>
  );
}

function summaryOf({ incidents, devices, screens, computer }: HealthView): string {
  const lasting = incidents.filter(({ to }) => to === null).length;
  const all = [...Object.values(devices), ...Object.values(screens), ...(computer ? [computer] : [])];
  const rising = all.flatMap(({ concerns }) => concerns).filter(({ level }) => level === 'rising').length;
  if (lasting === 0 && rising === 0) return 'Everything is within its limits.';
  const parts = [
    lasting > 0 && (lasting === 1 ? '1 incident goes on' : `${lasting} incidents go on`),
    rising > 0 && `${rising} near ${rising === 1 ? 'its limit' : 'their limits'}`,
  ];
  return `${parts.filter(Boolean).join(', ')}.`;
}

const percent = (part: number): string => `${Math.round(part * 100)} %`;

const ComputerLine = ({ computer }: { readonly computer: NonNullable<HealthView['computer']> }) => (
  <p className="text-ink-soft">
    This computer: {percent(computer.load)} busy · {percent(computer.free)} memory free · engine delay{' '}
    {durationText(computer.lateMs)}
  </p>
);
