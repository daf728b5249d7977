'use client';

import { newPanelEdit, panelsOf, type PageRecord } from '../../core/show';
import { useDesk, useShow } from '../desk';
import { Button, newId } from '../parts';
import { AccessPart } from './access-part';
import { PanelRow } from './panel-row';
import { ScreensPart } from './screens-part';

/** The panels of the show, how they are joined, and every screen that is connected. */
export function PanelsScreen() {
  const { show } = useShow();
  const desk = useDesk();
  const panels = panelsOf(show?.records ?? []);
  const pages = (show?.records ?? [])
    .filter((record): record is PageRecord => record.kind === 'page')
    .sort((a, b) => a.data.order - b.data.order);
  return (
    <section className="screen" aria-labelledby="panels-title">
      <div className="screen-head">
        <h1 id="panels-title">Panels</h1>
        <p className="muted">A panel is a set of pages with its own address, for one operator.</p>
        <Button
          kind="strong"
          disabled={!show}
          onClick={() => show && void desk.edit(newPanelEdit(show.records, newId('pan'), `Panel ${panels.length + 1}`))}
        >
          New panel
        </Button>
        <a className="btn btn-plain" href="/panel" target="_blank">
          Open all pages
        </a>
      </div>
      {show && panels.length === 0 && (
        <p className="page-waiting">
          No panel yet. Until there is one, all pages are at the address <span className="mono">/panel</span>.
        </p>
      )}
      <ul className="panel-rows">
        {show && panels.map((panel) => <PanelRow key={panel.id} panel={panel} pages={pages} records={show.records} />)}
      </ul>
      <ScreensPart />
      <AccessPart />
    </section>
  );
}
