'use client';

import { newPanelEdit, panelsOf, type PageRecord } from '../../core/show';
import { useDesk, useShow } from '../desk';
import { newId } from '../parts';
import { AccessPart } from './access-part';
import { PanelRow } from './panel-row';
import { Button, buttonClass, EmptyState } from '../kit';
import { ClockPart } from './clock-part';
import { TallyPart } from './tally-part';
import { ScreensPart } from './screens-part';
import { WalkPart } from './walk-part';

/** The panels of the show, how they are joined, and every screen that is connected. */
export function PanelsScreen() {
  const { show } = useShow();
  const desk = useDesk();
  const panels = panelsOf(show?.records ?? []);
  const pages = (show?.records ?? [])
    .filter((record): record is PageRecord => record.kind === 'page')
    .sort((a, b) => a.data.order - b.data.order);
  return (
    <section
      className="flex min-h-full flex-col px-4 pt-3.5 pb-3 [&>.live-page]:h-auto [&>.live-page]:flex-1"
      aria-labelledby="panels-title"
    >
      <div className="mb-2.5 flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
        <h1 id="panels-title">Panels</h1>
        <p className="text-ink-soft">A panel is a set of pages with its own address, for one operator.</p>
        <Button
          kind="strong"
          disabled={!show}
          onClick={() => show && void desk.edit(newPanelEdit(show.records, newId('pan'), `Panel ${panels.length + 1}`))}
        >
          New panel
        </Button>
        <a className={buttonClass()} href="/panel" target="_blank">
          Open all pages
        </a>
      </div>
      {show && panels.length === 0 && (
        <EmptyState title="No panels yet.">
          Until there is one, all pages are at the address <span className="font-mono text-[0.93em]">/panel</span>.
        </EmptyState>
      )}
      <ul className="border-t border-rule-strong">
        {show && panels.map((panel) => <PanelRow key={panel.id} panel={panel} pages={pages} show={show} />)}
      </ul>
      <TallyPart />
      <ClockPart />
      <WalkPart />
      <ScreensPart />
      <AccessPart />
    </section>
  );
}
