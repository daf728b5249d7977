'use client';

import { useState } from 'react';
import { Button, EmptyState, Fold, Progress, SplitPanes, tableClass, Tabs } from '../kit';
import { Specimen, Specimens } from './specimen';

const tabs = [
  { id: 'test', title: 'Test' },
  { id: 'try', title: 'Try' },
  { id: 'readings', title: 'Readings' },
] as const;

/** How a screen is divided. */
export function Layout() {
  const [tab, setTab] = useState<(typeof tabs)[number]['id']>('test');
  return (
    <Specimens title="Layout">
      <Specimen title="Tabs">
        <Tabs label="Device" tabs={tabs} value={tab} onChange={setTab}>
          <p className="p-4">What the tab {tab} holds.</p>
        </Tabs>
      </Specimen>
      <Specimen title="Fold: stays folded">
        <div className="w-full">
          <Fold name="Kit lamp" title="Lamp" aside={<span className="text-ink-soft">2 rules</span>}>
            <p>Red while the input is on air.</p>
          </Fold>
        </div>
      </Specimen>
      <Specimen title="Split panes: the boundary is dragged, or moved by arrow keys">
        <div className="flex h-32 w-full border border-rule">
          <SplitPanes name="kit" main={<p className="p-3">The list</p>} side={<p className="p-3">Its details</p>} />
        </div>
      </Specimen>
      <Specimen title="Table">
        <table className={tableClass} aria-label="Crews">
          <thead>
            <tr>
              <th scope="col">Lane</th>
              <th scope="col">Crew</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td>1</td>
              <td>Marsh Lane A</td>
            </tr>
            <tr>
              <td>2</td>
              <td>Eelbridge</td>
            </tr>
          </tbody>
        </table>
      </Specimen>
      <Specimen title="Progress: known, not known">
        <Progress label="Search" part={0.4} />
        <Progress label="Reading the file" part={undefined} />
      </Specimen>
      <Specimen title="Empty state">
        <EmptyState title="No macros yet." acts={<Button kind="strong">New macro</Button>}>
          A macro sends commands on a timeline, across devices.
        </EmptyState>
      </Specimen>
    </Specimens>
  );
}
