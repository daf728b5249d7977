'use client';

import { Tabs } from 'radix-ui';
import { useRef } from 'react';
import { atLevel, controlsOfZone } from '../../core/page';
import { useEditor, useEditorStore, type PaneTab } from './editor-store';
import { ControlPane } from './control-pane';
import { useFacts } from './facts';
import { FindPane } from './find-pane';
import { ManyPane } from './many-pane';
import { OffersPane } from './offers-pane';
import { PagePane } from './page-pane';
import { SeriesPane } from './series-pane';
import { ZonePane } from './zone-pane';

const tabs: readonly { readonly id: PaneTab; readonly title: string }[] = [
  { id: 'chosen', title: 'Chosen' },
  { id: 'rig', title: 'Offers' },
  { id: 'page', title: 'Page' },
  { id: 'find', title: 'Find' },
];

/** Beside the grid: what is chosen, what the rig offers, the page itself, and finding across pages. */
export function EditorPane() {
  const store = useEditorStore();
  const tab = useEditor((state) => state.tab);
  const search = useRef<HTMLInputElement>(null);
  return (
    <aside
      className="flex flex-col overflow-auto border-l border-rule pr-1 pl-5 max-[900px]:border-t max-[900px]:border-l-0 max-[900px]:border-rule max-[900px]:p-0"
      aria-label="Beside the page"
    >
      <Tabs.Root value={tab} onValueChange={(value) => store.setState({ tab: value as PaneTab })}>
        <Tabs.List
          className="mb-3 flex gap-0.5 border-b border-rule [&_button]:min-h-9 [&_button]:border-b-3 [&_button]:border-transparent [&_button]:px-2.25 [&_button]:font-semibold [&_button]:text-ink-soft [&_button[data-state=active]]:border-accent [&_button[data-state=active]]:text-ink"
          aria-label="Beside the page"
        >
          {tabs.map(({ id, title }) => (
            <Tabs.Trigger
              key={id}
              value={id}
              // A mouse goes on to the search at once; a finger would open the keyboard of its screen.
              onPointerUp={({ pointerType }) => {
                if (id === 'rig' && pointerType !== 'touch') setTimeout(() => search.current?.focus());
              }}
            >
              {title}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="chosen" tabIndex={-1}>
          <Chosen />
        </Tabs.Content>
        <Tabs.Content value="rig" tabIndex={-1}>
          <OffersPane search={search} />
        </Tabs.Content>
        <Tabs.Content value="page" tabIndex={-1}>
          <PagePane />
        </Tabs.Content>
        <Tabs.Content value="find" tabIndex={-1}>
          <FindPane />
        </Tabs.Content>
      </Tabs.Root>
    </aside>
  );
}

function Chosen() {
  const { page, controls } = useFacts();
  const ids = useEditor((state) => state.ids);
  const zoneId = useEditor((state) => state.zone);
  const series = useEditor((state) => state.series);
  const zone = page.data.zones.find(({ id }) => id === zoneId);
  const level = useEditor((state) => state.level);
  const chosen = controls
    .filter(({ id }) => ids.has(id))
    .map((control) => (level === undefined ? control : { ...control, data: atLevel(control.data, level) }));
  const [only] = chosen;
  if (series && only) return <SeriesPane />;
  if (zone) return <ZonePane key={zone.id} zone={zone} controls={controlsOfZone(page, zone, controls)} />;
  if (chosen.length > 1) return <ManyPane controls={chosen} />;
  if (only) return <ControlPane key={only.id} control={only} />;
  return (
    <p className="pt-2 text-ink-soft">
      Nothing is chosen. Choose a control to change it, a zone’s title, or an empty cell to put something there.
    </p>
  );
}
